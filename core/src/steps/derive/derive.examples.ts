import { type KindExamples } from '../shared/example.ts'

export const deriveExamples: KindExamples = {
  kind: 'derive',
  examples: [
    {
      name: 'a new column stands last',
      input: 'Fee:decimal,Clinic\n10,A\n,B\n',
      step: { as: 'Gross', formula: 'Fee * 1.2' },
      gives: 'Fee,Clinic,Gross\n10,A,12\n,B,\n',
      statistics: { columnsAdded: ['Gross'] },
    },
    {
      name: 'beside another',
      input: 'Fee:decimal,Clinic\n10,A\n',
      step: { as: 'Gross', formula: 'Fee + 1', after: 'Fee' },
      gives: 'Fee,Gross,Clinic\n10,11,A\n',
    },
    {
      name: 'in place',
      input: 'Fee:integer\n10\n3\n',
      step: { as: 'Fee', formula: 'IF(Fee > 5; 5; Fee)' },
      gives: 'Fee\n5\n3\n',
      statistics: { cellsChanged: 1, columnsAdded: [] },
    },
    {
      name: 'what cannot be computed is counted',
      input: 'A:integer,B:integer\n1,0\n6,3\n1,\n',
      step: { as: 'C', formula: 'A / B' },
      gives: 'A,B,C\n1,0,\n6,3,2\n1,,\n',
      statistics: { unreadable: { C: 1 } },
    },
    {
      name: 'a branch not taken does not count',
      input: 'A:integer,B:integer\n1,0\n6,3\n',
      step: { as: 'C', formula: 'IF(B = 0; 0; A / B)' },
      gives: 'A,B,C\n1,0,0\n6,3,2\n',
      statistics: { unreadable: {} },
    },
    {
      name: 'whole numbers out of range',
      input: 'A:integer\n9007199254740991\n',
      step: { as: 'B', formula: 'A + 1' },
      gives: 'A,B\n9007199254740991,\n',
      statistics: { unreadable: { B: 1 } },
    },
    {
      name: 'decimals out of range',
      input: 'A:decimal\n1e308\n1e-308\n',
      step: { as: 'B', formula: 'A * A' },
      gives: 'A,B\n1e308,\n1e-308,0\n',
    },
    {
      name: 'columns in quotes, text and dates',
      input: "Visit date:date,Clinic's name\n2031-05-02,Oxbow\n,-\n",
      step: { as: 'Key', formula: "'Clinic''s name' & \"-\" & 'Visit date'" },
      gives: "Visit date,Clinic's name,Key\n2031-05-02,Oxbow,Oxbow-2031-05-02\n,-,--\n",
    },
    {
      name: 'dates and days',
      input: 'A:date,B:date\n2031-05-12,2031-05-02\n,2031-01-01\n',
      step: { as: 'C', formula: 'IF(A - B > 5; A + 1; B)' },
      gives: 'A,B,C\n2031-05-12,2031-05-02,2031-05-13\n,2031-01-01,2031-01-01\n',
    },
    {
      name: 'a constant text beside dates',
      input: 'A:date\n2031-05-12\n2030-01-01\n\n',
      step: { as: 'C', formula: 'A >= "2031-01-01"' },
      gives: 'A,C\n2031-05-12,true\n2030-01-01,false\n',
    },
    {
      name: 'equality with empty',
      input: 'A,B\nx,x\n,x\n,\n.,\n',
      step: { as: 'C', formula: 'A = B' },
      gives: 'A,B,C\nx,x,true\n,x,false\n.,,false\n',
    },
    {
      name: 'text goes by small letters',
      input: 'A,B\nb,A\nA,b\na,A\n',
      step: { as: 'C', formula: 'A < B' },
      gives: 'A,B,C\nb,A,false\nA,b,true\na,A,false\n',
    },
    {
      name: 'per cent and powers',
      input: 'A:decimal\n4\n',
      step: { as: 'B', formula: '-A^2 + 50% + 2^3^2' },
      gives: 'A,B\n4,80.5\n',
    },
    {
      name: 'a parameter',
      input: 'A:date\n2031-05-12\n',
      parameters: [{ name: 'As of', type: 'date', value: '2031-06-30' }],
      step: { as: 'B', formula: "$'As of' - A" },
      gives: 'A,B\n2031-05-12,49\n',
    },
  ],
  broken: [
    {
      name: 'text where numbers are needed',
      input: 'Fee:decimal,Clinic\n1,a\n',
      step: { as: 'X', formula: 'Fee + Clinic' },
      says: 'Clinic is text; + needs numbers',
    },
    {
      name: 'an unknown function',
      input: 'A\nx\n',
      step: { as: 'X', formula: 'LEFFT(A; 2)' },
      says: 'Did you mean LEFT',
    },
    {
      name: 'an open bracket',
      input: 'A\nx\n',
      step: { as: 'X', formula: 'LEFT(A; 2' },
      says: 'A closing bracket ) is missing',
    },
    {
      name: 'too few arguments',
      input: 'A\nx\n',
      step: { as: 'X', formula: 'MID(A)' },
      says: 'MID takes 3 arguments, and has 1',
    },
  ],
}
