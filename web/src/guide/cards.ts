import { isKind, type Recipe, type Step } from '@fabula/core'

/** Where the page stands, and what the guided story holds so far. */
export type GuideFacts = {
  readonly path: string
  readonly recipe: Recipe | undefined
  /** Replays that came to their end. */ readonly replays: number
  readonly seen: readonly string[]
}

/** A control to point at: the first that is there and in sight, by a CSS selector and its words, or the start of them. */
export type Pointed = { readonly css: string; readonly text?: string; readonly whole?: string }

/** One thing to do: what it is, whether it is done, and the control that does it next, the most pressing first. */
export type Act = {
  readonly words: string
  readonly done: (facts: GuideFacts) => boolean
  readonly points: readonly Pointed[]
  /** A made-up file that the card hands over, and the page that takes it. */
  readonly hands?: { readonly file: string; readonly to: 'open' | 'replay' }
}
export type Card = { readonly title: string; readonly about: string; readonly acts: readonly Act[] }

const button = (text: string): Pointed => ({ css: 'button', text })
const head = (column: string): Pointed => ({ css: '[role=columnheader] button', text: column })
/** The head of a column that is to be selected too. */
const unselected = (column: string): Pointed => ({
  css: '[role=columnheader]:not([aria-selected=true]) button',
  text: column,
})
const keep: Pointed = { css: 'button', whole: 'Keep' }

const stepsOf = ({ recipe }: GuideFacts): readonly Step[] => recipe?.tables.flatMap(({ steps }) => steps) ?? []
const has = (test: (step: Step) => boolean) => (facts: GuideFacts) => stepsOf(facts).some(test)
const sees = (what: string) => (facts: GuideFacts) => facts.seen.includes(what)

/** The seven cards, in their order. */
export const cards: readonly Card[] = [
  {
    title: 'Open an export',
    about:
      'This is May’s export of visits as it stands in the file. How it is opened is a sentence too; it is right as it is.',
    acts: [{ words: 'Keep it', done: ({ recipe }) => recipe !== undefined, points: [keep] }],
  },
  {
    title: 'Clean it',
    about: 'Select a column: the card on the right says what it holds and what looks wrong, with a way to mend it.',
    acts: [
      {
        words: 'Select Clinic, take the spaces off, and keep the sentence',
        done: has((step) => (isKind(step, 'derive') && step.as === 'Clinic') || isKind(step, 'clean-text')),
        points: [keep, button('Take the spaces off'), head('Clinic')],
      },
      {
        words: 'Select Charged, read it as a number, and keep that',
        done: has((step) => isKind(step, 'cast')),
        points: [keep, button('Read as a number'), head('Charged')],
      },
      {
        words: 'Select Status, tick Cancelled and Test, drop their rows, and keep that',
        done: has((step) => isKind(step, 'filter')),
        points: [
          keep,
          button('Drop these rows'),
          { css: 'input[type=checkbox][aria-label="Tick Test"]:not(:checked)' },
          { css: 'input[type=checkbox][aria-label="Tick Cancelled"]:not(:checked)' },
          head('Status'),
        ],
      },
    ],
  },
  {
    title: 'Match it with another table',
    about: 'What a service is stands in the price list. Rows are matched where the code of the service is the same.',
    acts: [
      {
        words: 'Open the price list, and keep it',
        done: ({ recipe }) => (recipe?.tables.length ?? 0) > 1,
        points: [keep],
        hands: { file: 'price-list-2031.csv', to: 'open' },
      },
      {
        words: 'Go back to the visits, select Service, match it with the price list, and keep that',
        done: has((step) => isKind(step, 'join')),
        points: [
          keep,
          button('Match with another table'),
          head('Service'),
          { css: 'section > div > button[aria-expanded=false]', text: 'Visits' },
        ],
      },
    ],
  },
  {
    title: 'Give it another shape',
    about: 'First one row for each clinic and category; then each category becomes a column of its own.',
    acts: [
      {
        words: 'Select Clinic, then with Ctrl Category and Charged; summarise by them, and keep that',
        done: has((step) => isKind(step, 'summarise')),
        points: [
          keep,
          unselected('Clinic'),
          unselected('Category'),
          unselected('Charged'),
          button('Summarise by these columns'),
        ],
      },
      {
        words: 'Select Clinic, then with Ctrl Category and Total Charged; turn rows into columns, and keep that',
        done: has((step) => isKind(step, 'pivot')),
        points: [
          keep,
          unselected('Clinic'),
          unselected('Category'),
          unselected('Total Charged'),
          button('Turn rows into columns'),
        ],
      },
    ],
  },
  {
    title: 'Check the counts',
    about: 'Before anybody uses the table: which rows of the files are not in it, and why did they leave?',
    acts: [
      {
        words: 'Select nothing (press Escape), and ask which rows are not in it',
        done: sees('lost'),
        points: [
          button('Which rows of the files are not in it'),
          { css: '[aria-label="What is selected"] button', text: 'The table' },
        ],
      },
    ],
  },
  {
    title: 'Replay it on June',
    about:
      'Next month the export is another one: a column has another name, one has been added. The story asks what it cannot know.',
    acts: [
      {
        words: 'Go to Replay, and give it the export of June',
        done: ({ path, seen, replays }) => (path.endsWith('/replay') && seen.includes('june')) || replays > 0,
        points: [{ css: 'nav a', text: 'Replay' }],
        hands: { file: 'visits-2031-06.csv', to: 'replay' },
      },
      {
        words: 'Answer its questions, and replay the story',
        done: ({ replays }) => replays > 0,
        points: [{ css: '[data-offer]' }, button('Replay the story')],
      },
    ],
  },
  {
    title: 'Hand it over',
    about: 'The recipe and the script go to a colleague, who runs them on the next export without you.',
    acts: [
      {
        words: 'Go to Hand over, and look at the script',
        done: sees('hand-over'),
        points: [{ css: 'nav a', text: 'Hand over' }],
      },
    ],
  },
]

/** The first card with something left to do, and that thing; nothing where all is done. */
export const currentAct = (facts: GuideFacts): { readonly card: number; readonly act: Act } | undefined => {
  for (const [card, { acts }] of cards.entries()) {
    const act = acts.find(({ done }) => !done(facts))
    if (act) return { card, act }
  }
  return undefined
}
