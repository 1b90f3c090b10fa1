import { table, type KindExamples } from '../shared/example.ts'

export const castExamples: KindExamples = {
  kind: 'cast',
  examples: [
    {
      name: 'numbers as people write them',
      input: table`
          Fee
          "1,204.50"
          £ 180.00
          (12)
          5%
          dog
          "1,20"
          -€3
          1.2e3
        `,
      step: { columns: ['Fee'], type: 'decimal' },
      gives: 'Fee\n1204.5\n180\n-12\n0.05\n\n\n-3\n1200\n',
      statistics: { unreadable: { Fee: 2 }, cellsChanged: 6 },
    },
    {
      name: 'a decimal comma',
      input: 'Fee\n"1.204,50"\n"0,5"\n1.2\n',
      step: { columns: ['Fee'], type: 'decimal', locale: { decimal: ',', group: '.' } },
      gives: 'Fee\n1204.5\n0.5\n\n',
    },
    {
      name: 'a comma before decimals, with currency, brackets and a percent sign',
      input: table`
          Fee
          "12,5"
          "€ 1.234,50"
          "(45,00)"
          "2,5 %"
        `,
      step: { columns: ['Fee'], type: 'decimal', locale: { decimal: ',', group: '.' } },
      gives: 'Fee\n12.5\n1234.5\n-45\n0.025\n',
      statistics: { cellsChanged: 4 },
    },
    {
      name: 'a year where the form has none',
      input: 'Day\n2 May\n29 Feb\n3 June 2030\nSunday\n',
      step: { columns: ['Day'], type: 'date', formats: ['d MMM', 'd MMM yyyy'], year: 2031 },
      gives: 'Day\n2031-05-02\n\n2030-06-03\n\n',
      statistics: { unreadable: { Day: 2 } },
    },
    {
      name: 'a year for moments, not where the form has two digits of one',
      input: 'At\n2 May 09:30\n2 May 30 09:30\n',
      step: { columns: ['At'], type: 'datetime', formats: ['d MMM HH:mm', 'd MMM yy HH:mm'], year: 2032 },
      gives: 'At\n2032-05-02T09:30:00\n2030-05-02T09:30:00\n',
    },
    {
      name: 'decimals round to whole numbers, away from zero',
      input: 'X:decimal\n2.5\n-2.5\n3\n1e300\n',
      step: { columns: ['X'], type: 'integer' },
      gives: 'X\n3\n-3\n3\n\n',
      statistics: { cellsChanged: 2, unreadable: { X: 1 } },
    },
    {
      name: 'dates in two forms',
      input: 'Day\n02/05/2031\n2031-05-03\n31/02/2031\n 4/6/2031 \n1/2/31\n',
      step: { columns: ['Day'], type: 'date', formats: ['d/M/yyyy', 'yyyy-MM-dd', 'd/M/yy'] },
      gives: 'Day\n2031-05-02\n2031-05-03\n\n2031-06-04\n2031-02-01\n',
      statistics: { unreadable: { Day: 1 } },
    },
    {
      name: 'month names and am and pm',
      input: 'At\n2 May 2031 3:05 pm\n12 sept 2031 12:00 am\n',
      step: { columns: ['At'], type: 'datetime', formats: ['d MMM yyyy h:mm a'] },
      gives: 'At\n2031-05-02T15:05:00\n2031-09-12T00:00:00\n',
    },
    {
      name: 'times',
      input: 'At\n09:30\n09:30:05.25\n24:00\n',
      step: { columns: ['At'], type: 'time' },
      gives: 'At\n09:30:00\n09:30:05.250\n\n',
    },
    {
      name: 'yes and no',
      input: 'Paid\nYes\nn\nTRUE\n0\nmaybe\n',
      step: { columns: ['Paid'], type: 'boolean' },
      gives: 'Paid\ntrue\nfalse\ntrue\nfalse\n\n',
    },
    {
      name: 'anything to text',
      input: 'D:date,N:decimal,B:boolean,T:datetime\n2031-05-02,1.50,true,2031-05-02 09:30\n',
      step: { columns: { all: true }, type: 'text' },
      gives: 'D,N,B,T\n2031-05-02,1.5,true,2031-05-02T09:30:00\n',
    },
    {
      name: 'a date-time cut to its date',
      input: 'T:datetime\n2031-05-02T23:59:59\n',
      step: { columns: ['T'], type: 'date' },
      gives: 'T\n2031-05-02\n',
    },
  ],
  broken: [
    {
      name: 'what has no way',
      input: 'D:date\n2031-05-02\n',
      step: { columns: ['D'], type: 'integer' },
      says: 'cannot become a whole number',
    },
    {
      name: 'minutes for months',
      input: 'D\n02/05/2031\n',
      step: { columns: ['D'], type: 'date', formats: ['dd/mm/yyyy'] },
      says: 'months are MM',
    },
  ],
}
