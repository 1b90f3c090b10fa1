import type { Request } from 'express'
import { linkRights } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'

/** Which story a request is about, what it may do there, and the link it came by. `edit`: the state of the story that it shows, if not the newest. */
export type Access = {
  readonly flow: string
  readonly rights: 'all' | (typeof linkRights)[number]
  readonly link?: string
  readonly edit?: number | undefined
}

/** Work for links has processes of its own, so that it never delays the owner's. */
export const laneOf = ({ link }: Access): 'interactive' | 'guest' => (link === undefined ? 'interactive' : 'guest')

/** Refuses what a link does not allow. */
export const need = ({ rights }: Access, right: (typeof linkRights)[number] | 'all'): void => {
  if (rights === 'all') return
  if (right === 'all') throw new Refusal('owner-only')
  if (linkRights.indexOf(rights) < linkRights.indexOf(right))
    throw new Refusal('not-by-this-link', { rights, needed: right })
}

/** The flow of a request that only who keeps it may make. */
export const ownedFlow =
  (accessOf: (request: Request) => Promise<Access>) =>
  async (request: Request): Promise<string> => {
    const access = await accessOf(request)
    need(access, 'all')
    return access.flow
  }
