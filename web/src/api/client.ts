import type { z } from 'zod'
import { errorReply, fileRef, type FileRef } from '@fabula/core/api'

/** What the server would not do, in its own sentence. */
export class ServerError extends Error {
  readonly code: string
  constructor(code: string, sentence: string) {
    super(sentence)
    this.code = code
  }
}

const fromReply = (data: unknown, status: number): ServerError => {
  const read = errorReply.safeParse(data)
  return read.success
    ? new ServerError(read.data.error.code, read.data.error.sentence)
    : new ServerError(
        'fault',
        `The server answered ${status} and nothing more. Reload the page; if it stays so, start the server again.`,
      )
}

/** The link by which the page came, said along with what it asks. */
const linkHeader = (): Record<string, string> => {
  const token = /^\/r\/([^/]+)/.exec(location.pathname)?.[1]
  return token ? { 'x-fabula-link': token } : {}
}

/** A name for this page, so that what it asks supersedes only what it asked before. */
const pageName = crypto.getRandomValues(new Uint32Array(2)).join('-')

export const ask = async <T>(
  schema: z.ZodType<T>,
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> => {
  let response: Response
  try {
    response = await fetch(path, {
      method,
      headers: {
        'x-fabula-page': pageName,
        ...linkHeader(),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    })
  } catch (error) {
    if (signal?.aborted) throw error
    throw new ServerError(
      'unreachable',
      'The server does not answer. See that it runs, then try again; nothing on this page is lost.',
    )
  }
  const data: unknown = await response.json().catch(() => undefined)
  if (!response.ok) throw fromReply(data, response.status)
  return schema.parse(data)
}

/** Sends a file's bytes, telling how far it is. `sample`: which rows of a larger file it has, in words. */
export const upload = (file: File, progress: (share: number) => void, sample?: string): Promise<FileRef> =>
  new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    const about = new URLSearchParams({ name: file.name, ...(sample === undefined ? {} : { sample }) })
    request.open('POST', `/api/files?${about.toString()}`)
    request.setRequestHeader('content-type', 'application/octet-stream')
    for (const [name, value] of Object.entries(linkHeader())) request.setRequestHeader(name, value)
    request.upload.onprogress = ({ loaded, total }) => progress(total > 0 ? loaded / total : 0)
    request.onerror = () =>
      reject(new ServerError('unreachable', `${file.name} could not be sent: the server does not answer.`))
    request.onload = () => {
      const data: unknown = JSON.parse(request.responseText || '{}')
      if (request.status === 200) resolve(fileRef.parse(data))
      else reject(fromReply(data, request.status))
    }
    request.send(file)
  })

/**
 * Sends files one after another.
 * @param progress the share of a file that is sent, from 0 on
 */
export const uploadAll = async (
  files: readonly File[],
  progress: (file: File, share: number) => void,
): Promise<FileRef[]> => {
  const refs: FileRef[] = []
  for (const file of files) {
    progress(file, 0)
    refs.push(await upload(file, (share) => progress(file, share)))
  }
  return refs
}
