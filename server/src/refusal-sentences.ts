import { linkRights } from '@fabula/core/api'

type LinkRight = (typeof linkRights)[number]
/** Where a database is reached. */
type DatabaseAddress = { readonly database: string; readonly host: string; readonly port: number }
/** What another program said of a fault. */
type Reason = { readonly reason: string }
type Host = { readonly host: string }
type Named = { readonly name: string }

const whole = (n: number): string => Math.round(n).toLocaleString('en-GB')
const megabytes = (bytes: number): string => `${whole(bytes / 1e6)} MB`
const megabytesUp = (bytes: number): string => `${Math.ceil(bytes / 1e6).toLocaleString('en-GB')} MB`
const rightWords: Readonly<Record<LinkRight, string>> = { replay: 'replayed', copy: 'copied', edit: 'changed' }
const folderFaults = {
  relative: (folder: string) =>
    `Write the folder from its root on, such as /srv/exports; ${folder} does not say where it begins.`,
  absent: (folder: string) => `The server cannot look into ${folder}: there is no such folder.`,
  file: (folder: string) => `The server cannot look into ${folder}: it is a file.`,
  unreadable: (folder: string) => `The server cannot look into ${folder}: it may not read it.`,
}
const statusHint = (status: number): string => {
  if (status === 401 || status === 403) return ': it asks for a login, which is not given here'
  if (status === 404) return ': nothing stands at this address'
  return ''
}

/** Refusals of a request as it is sent: who sends it, and in what form. */
const ofRequests = {
  'bad-json': 'This request is not JSON.',
  'bad-request': ({ what, at }: { readonly what?: string | undefined; readonly at?: string | undefined }) =>
    what === undefined
      ? 'This request is not understood: its address or its form is not as it must be.'
      : `This request is not understood: ${what} at ${at}.`,
  'foreign-host': ({ host }: Host) =>
    `This server does not answer to ${host || 'a request without a host'}. Name it in FABULA_HOSTS if it should.`,
  'foreign-origin':
    'Requests from other sites are refused. If this server stands behind a proxy, let the proxy pass on the Host header, and name that host in FABULA_HOSTS.',
  'large-request': 'This request is too large.',
  'nothing-here': 'There is nothing at this address.',
  'owner-key':
    'Only who keeps this server can open this. Give the owner’s key, which was printed at the first start, or ask for a link of the story.',
  'owner-only': 'Only who keeps the story can do that.',
  'owner-only-output':
    'Which tables of databases the story writes can be changed only by who keeps it. This change was held back; leave those outputs as they were, and all else can be kept.',
  'wrong-key':
    'This is not the owner’s key. It was printed at the first start; it also stands in the file owner.key of the data folder.',
}

/** Refusals of what a link does not allow. */
const ofLinks = {
  'edits-the-story': 'A link that may change the story shows the story as it stands, not an edition.',
  'link-limit': (
    facts:
      { readonly replays: number } | { readonly bytesADay: number; readonly bytesSent: number; readonly bytes: number },
  ) =>
    'replays' in facts
      ? `By this link ${facts.replays} replays may wait or run at a time, and so many do. Try again when one has ended.`
      : `By this link ${megabytesUp(facts.bytesADay)} may be sent a day; ${megabytesUp(facts.bytesSent)} were sent today, and this file has ${megabytesUp(facts.bytes)}. Try again tomorrow, or ask whoever sent the link to allow more.`,
  'no-edition': 'There is no such edition. Freeze one first.',
  'no-sources':
    'By this link the rows of the files that the story was built on are not shown; those of a replay begun by it are.',
  'no-length': 'By a link a file is sent with its length, and an empty one is not taken.',
  'no-link': 'This link has ended or never was. Ask whoever sent it for a new one.',
  'not-by-this-link': ({ rights, needed }: { readonly rights: LinkRight; readonly needed: LinkRight }) =>
    `By this link the story can be read and ${rights === 'copy' ? 'replayed and copied' : 'replayed'}, not ${rightWords[needed]}.`,
  'too-many-requests': 'Too many looks by links wait at this moment. Try again in a few seconds.',
}

/** Refusals of a story, a replay, or a part of one. */
const ofStories = {
  // the sentences of these are those of the recipe's faults, of parameters, and of a held story
  'bad-parameter': ({ reason }: Reason) => reason,
  'invalid-recipe': ({ reason }: Reason) => reason,
  held: ({ reason }: Reason) => reason,
  'changed-elsewhere':
    'The story was changed in another window meanwhile. Reload the page to see it, then make your change again.',
  'data-refused': ({ reason }: Reason) => `The data was refused. ${reason} Nothing was written.`,
  'does-not-fit': ({ reason }: Reason) => `The files do not fit: ${reason} Nothing was written.`,
  'needs-answer': ({ reason }: Reason) => `Something needs an answer first: ${reason} Nothing was written.`,
  'no-download': 'There is no such thing to download.',
  'no-file': ({ name }: Named) => `The file ${name} did not arrive. Drop it again.`,
  'no-flow': 'This story does not exist, or its link has ended.',
  'no-input-file': ({ name }: Named) => `No file is given for ${name}. Drop one on the page.`,
  'no-sample': ({ name }: Named) => `No sample is named ${name}. The first page lists those there are.`,
  'no-output': 'This replay did not make that file.',
  'no-outputs': 'This replay made no files.',
  'no-run': 'This replay does not exist.',
  'no-script': ({ reason }: Reason) => reason,
  'no-cluster':
    'This server knows no cluster. Whoever keeps it names one with FABULA_SPARK, such as spark://host:7077, and has spark-submit on its path.',
  'no-cluster-path': ({ name }: { readonly name: string }) =>
    `Say where the cluster finds ${name}: a file, a pattern, a folder or an address.`,
  'no-shared-folder': ({ name, folder }: { readonly name: string; readonly folder: string }) =>
    `${name} was sent to this server, which cannot write it into ${folder} for the cluster to read. Say by a path where the cluster finds it, or write to a folder that both have.`,
  'sample-on-cluster': ({ name }: Named) =>
    `${name} is a sample; on the cluster the whole file is read. Say by a path where the cluster finds it.`,
  'rows-on-cluster': 'The rows of this replay lie where the cluster keeps them; only its counts are here.',
  'cluster-failed': ({ reason }: Reason) => reason,
  'not-traced': ({ reason }: Reason) => reason,
  'no-table': 'This table is not in the recipe.',
  'unfinished-story': 'The story is not finished: one of its sentences needs a mend first.',
  'unfinished-table': ({ name }: Named) =>
    `The table ${name} is not finished: one of its sentences needs a mend first.`,
  'unmade-table': ({ name }: Named) => `The table ${name} could not be made.`,
  unwritable: ({ reason }: Reason) => reason,
}

/** Refusals of files that are sent, kept and read. */
const ofFiles = {
  'cut-upload': ({ name }: Named) => `${name} was cut off on its way and was not kept. Send it again.`,
  'disk-full': ({ name }: { readonly name?: string }) =>
    name === undefined
      ? 'The disk of the server is full, so this was not kept. Nothing else was changed; make room there, and do it again.'
      : `${name} was not kept: the disk of the server is full. Nothing else was changed; make room there, and send it again.`,
  'large-clipboard': ({ cells }: { readonly cells: number }) =>
    `This is too much for a clipboard (${whole(cells)} cells). Download the file instead.`,
  'long-name': ({ name, most }: Named & { readonly most: number }) =>
    `The name ${name.slice(0, 40)}… has ${name.length} characters, more than the ${most} that are kept. Shorten it, and send the file again.`,
  'no-name': ({ given }: { readonly given: string }) =>
    `The file has no name that can be kept${given === '' ? '' : `: ${JSON.stringify(given.slice(0, 60))}`}. Give it one, and send it again.`,
  'not-kept': ({ name }: Named) => `${name} is not kept here any more. Drop it again.`,
  'not-on-shelf': 'This file is not on the shelf any more.',
  'read-only': ({ name }: { readonly name?: string }) =>
    name === undefined
      ? 'The data folder of the server cannot be written, so this was not kept. Nothing else was changed.'
      : `${name} was not kept: the data folder of the server cannot be written. Nothing else was changed.`,
  'too-large': ({ name, most }: Named & { readonly most: number }) =>
    `${name} is larger than ${megabytes(most)}, the most this server takes.`,
  // the sentence of a file that does not open, or of a table past a limit, stands in formats and core
  unreadable: ({ reason }: Reason) => reason,
}

/** Refusals of sources outside: addresses, services, databases, folders. */
const ofSources = {
  'bad-address': ({ text }: { readonly text: string }) =>
    `“${text.slice(0, 80)}” is not a web address that can be fetched. Write it whole, with http:// or https:// at its start.`,
  'database-gone': ({ database, host, port }: DatabaseAddress) =>
    `The database ${database} at ${host}:${port} went away while it was asked. Nothing was changed there by halves; try again when it is back.`,
  'database-refused': ({ reason }: Reason) => `The database refused: ${reason}.`,
  'database-unreachable': ({ database, host, port, reason }: DatabaseAddress & Reason) =>
    `The database ${database} at ${host}:${port} cannot be reached: ${reason}.`,
  endless: ({ table, pages }: { readonly table: string; readonly pages: number }) =>
    `${table} goes on for more than ${whole(pages)} pages. Choose fewer rows in the service.`,
  'large-answer': ({ most }: { readonly most: number }) =>
    `There is more than ${megabytes(most)} at this address, the most that is fetched.`,
  'large-table': ({ table, most }: { readonly table: string; readonly most: number }) =>
    `${table} holds more than ${megabytes(most)}, the most that is fetched.`,
  'no-connection': ({ name }: Named) => `There is no connection called “${name}”. Make one under that name first.`,
  'no-folder': ({ folder, fault }: { readonly folder: string; readonly fault: keyof typeof folderFaults }) =>
    folderFaults[fault](folder),
  'no-source': 'This source is not known any more.',
  'not-json': ({ host }: Host) =>
    `${host} did not answer in JSON. See that this is the address of a service, not of a page about it.`,
  'not-odata': ({ host }: Host) =>
    `${host} does not answer as an OData service does: a list called “value” is missing. Give the address of the service itself.`,
  'private-address': ({ host }: Host) =>
    `${host} is an address of a private network, which this server does not fetch from. Whoever runs it can allow that with FABULA_ALLOW_PRIVATE=1.`,
  redirects: ({ host }: Host) => `${host} sends from one address to the next without end.`,
  'refused-there': ({ host, status }: Host & { readonly status: number }) =>
    `${host} answered ${status}${statusHint(status)}.`,
  'source-too-slow': ({ host, ms }: Host & { readonly ms: number }) =>
    `${host} did not answer within ${Math.round(ms / 1000)} seconds. Try again later.`,
  unreachable: ({ host, reason }: Host & Reason) => `${host} cannot be reached: ${reason}.`,
}

/** Refusals of work that was ended before its result. */
const ofWork = {
  busy: 'A proof is already under way. Wait until it has ended, or stop it.',
  'database-lost':
    'The database of the server stopped while it worked on this and is started again. What was acknowledged before is kept; look whether this change is there, and make it again if not.',
  'database-stopped':
    'The database of the server does not start; nothing was changed. The log of the server says more.',
  'newer-facts': 'Newer facts are asked for.',
  'out-of-memory': ({ bytes }: { readonly bytes: number }) =>
    `This needs more memory than the server gives to one job (${megabytes(bytes)}). Keep fewer rows or columns early in the story, or raise FABULA_JOB_MEMORY_MB on the server.`,
  'process-ended':
    'The process that worked on this ended unexpectedly. Nothing was changed; try again, and if it happens again, leave out the last change.',
  'reading-stopped': 'The reading was stopped. Nothing was changed.',
  stopped: 'The proof was stopped.',
  superseded: 'A newer draft took the place of this one, or it was stopped.',
  'too-deep':
    'This is nested too deeply to be worked out: a formula in a formula in a formula, or a file of that kind. Take it apart into several sentences.',
  'too-slow': ({ ms }: { readonly ms: number }) =>
    `This took longer than ${whole(ms / 1000)} seconds, the most that the server gives to it, and was ended. Keep fewer rows or columns early in the story, or raise the limit on the server.`,
}

/** The one table of what a refusal says: a sentence, or one made of its facts. */
export const refusalSentences = { ...ofRequests, ...ofLinks, ...ofStories, ...ofFiles, ...ofSources, ...ofWork }
