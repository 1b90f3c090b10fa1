import { table } from './example.ts'

/** Tables that the examples of several kinds share. */

export const wide = table`
  Clinic,Jan:integer,Feb:decimal,Vet
  Oxbow,1,2.5,Ada
  Marlpit,,3,
`

export const visits = table`
  Clinic,Fee:decimal,Day:date,Paid:boolean
  Oxbow,38.5,2031-05-02,true
  marlpit,,2031-05-03,false
  ,12,2031-05-01,
  Tarn End,180,,true
  oxbow,38.5,2031-05-02,
`

export const rows = (...kept: readonly number[]): string =>
  [
    'Clinic,Fee,Day,Paid',
    ...kept.map(
      (n) =>
        [
          'Oxbow,38.5,2031-05-02,true',
          'marlpit,,2031-05-03,false',
          ',12,2031-05-01,',
          'Tarn End,180,,true',
          'oxbow,38.5,2031-05-02,',
        ][n - 1],
    ),
    '',
  ].join('\n')

export const shapeVisits = table`
  Clinic,Animal,Kind,Fee:decimal,Day:date,Paid:boolean,N:integer
  Oxbow,Tess,dog,38.5,2031-05-02,true,1
  Marlpit,Otis,cat,12,2031-05-01,false,2
  Oxbow,Tess,dog,,2031-05-03,true,3
  Oxbow,Fig,,180,,,4
  ,Otis,cat,12,2031-05-01,false,5
`

export const tablesVisits = table`
  Ref:integer,Clinic,Kind
  1,Oxbow,dog
  2,marlpit,cat
  3,,dog
  4,Tarn,fox
  5,Oxbow,cat
`

export const clinics = 'Name,Town,Beds:integer\nMarlpit,Ash,4\nOxbow,Elm,2\nOxbow,Oak,3\n,Nowhere,9\nLong Acre,Fir,\n'

export const others = { clinics }

export const valuesVisits = table`
  Clinic,Fee:decimal,Day:date,Seen:datetime
  Oxbow,38.5,2031-05-02,2031-05-02T09:30:00
  ox bow,12,,
  OXBOW ,180,2031-05-03,2031-05-01T00:00:00
  ,,2031-05-01,
`
