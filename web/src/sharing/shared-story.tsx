import { Compose } from '../compose/compose.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Reader } from './reader.tsx'

/** By a link one reads the story, or works on it where the link allows. */
export const SharedStory = () => (useFlow().flow.rights === 'edit' ? <Compose /> : <Reader />)
