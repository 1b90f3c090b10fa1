// npm run odata: a small OData service (version 4) with the demo's data, a stand-in for one that an analyst may meet.
import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'

const visits = () => {
  const [head, ...lines] = readFileSync(new URL('../demo/visits-2031-05.csv', import.meta.url), 'utf8')
    .trimEnd()
    .split('\n')
  const names = head.split(',').map((name) => name.replace(/ (\w)/g, (_, letter) => letter.toUpperCase()))
  return lines.map((line, i) => ({
    Id: i + 1,
    ...Object.fromEntries(
      line
        .match(/("([^"]|"")*"|[^,]*)(?:,|$)/g)
        .slice(0, names.length)
        .map((cell, c) => [names[c], cell.replace(/,$/, '').replace(/^"|"$/g, '') || null]),
    ),
  }))
}
const tables = {
  Clinics: ['Fernhollow', 'Marlpit', 'Oxbow', 'Long Acre', 'Tarn End'].map((Name, i) => ({
    Id: i + 1,
    Name,
    Opened: `20${10 + i}-03-01`,
    Beds: 12 - i,
    Address: { Town: i % 2 ? 'Lower Fern' : 'Marl', Floor: null },
  })),
  Visits: visits(),
}
const pageSize = 250

/** Serves on a port of its own; resolves to the address of the service. */
export const serveOData = (port = 4320) =>
  new Promise((resolve) => {
    const server = createServer((request, response) => {
      const base = `http://${request.headers.host}/`
      const url = new URL(request.url, base)
      const answer = (status, data) => {
        response.writeHead(status, {
          'content-type': 'application/json;odata.metadata=minimal',
          'odata-version': '4.0',
        })
        response.end(JSON.stringify(data))
      }
      const name = decodeURIComponent(url.pathname.slice(1))
      if (name === '')
        return answer(200, {
          '@odata.context': `${base}$metadata`,
          value: Object.keys(tables).map((one) => ({ name: one, kind: 'EntitySet', url: one })),
        })
      const rows = Object.hasOwn(tables, name) ? tables[name] : undefined
      if (!rows) return answer(404, { error: { code: 'NotFound', message: `There is no table ${name}.` } })
      const wanted = url.searchParams.get('$select')?.split(',')
      const skip = Number(url.searchParams.get('$skip') ?? 0)
      const top = Number(url.searchParams.get('$top') ?? Infinity)
      const page = rows.slice(skip, skip + Math.min(pageSize, top)).map((row) => ({
        '@odata.id': `${name}(${row.Id})`,
        ...(wanted ? Object.fromEntries(wanted.map((one) => [one, row[one] ?? null])) : row),
      }))
      url.searchParams.set('$skip', String(skip + pageSize))
      const more = skip + pageSize < rows.length && top > pageSize
      return answer(200, {
        '@odata.context': `${base}$metadata#${name}`,
        value: page,
        ...(more ? { '@odata.nextLink': `${name}${url.search}` } : {}),
      })
    })
    server.listen(port, '127.0.0.1', () =>
      resolve({ address: `http://localhost:${server.address().port}/`, close: () => server.close() }),
    )
  })

if (process.argv[1]?.endsWith('odata.mjs')) {
  const { address } = await serveOData(Number(process.env.PORT ?? 4320))
  process.stdout.write(
    `The OData stand-in is at ${address}; start Fabula with FABULA_ALLOW_PRIVATE=1 to fetch from it.\n`,
  )
}
