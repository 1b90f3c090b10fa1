import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type UniqueIdentifier,
} from '@dnd-kit/core'
import {
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import type { KeyboardEventHandler, MouseEventHandler, ReactNode, TouchEventHandler } from 'react'

/** So far, in pixels, the mouse goes before a press is a drag; so long, in milliseconds, a finger stays. */
const mouseDistance = 6
const touchDelay = 250
const keyboardCodes = { start: ['Space'], cancel: ['Escape'], end: ['Space', 'Enter'] }

/** What lies under the pointer; for the keys, which have none, what is nearest. */
const underPointer: CollisionDetection = (given) => {
  const found = pointerWithin(given)
  return found.length > 0 ? found : closestCenter(given)
}

const mouse = { activationConstraint: { distance: mouseDistance } }
const finger = { activationConstraint: { delay: touchDelay, tolerance: 8 } }
/** Dragging with the mouse and with a finger. */
export const usePointerSensors = () => useSensors(useSensor(MouseSensor, mouse), useSensor(TouchSensor, finger))

const announcementsOf = (nameOf: (id: string) => string): Announcements => {
  const name = (id: UniqueIdentifier): string => nameOf(String(id))
  return {
    onDragStart: ({ active }) =>
      `${name(active.id)} is picked up. Arrows move it, Space puts it down, Escape leaves it.`,
    onDragOver: ({ active, over }) => (over ? `${name(active.id)} is at the place of ${name(over.id)}.` : ''),
    onDragEnd: ({ active, over }) =>
      over ? `${name(active.id)} is put at the place of ${name(over.id)}.` : `${name(active.id)} stays where it was.`,
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  }
}

/** A list whose items are moved with the mouse, a finger or the keys. `drop` says which item goes to the place of which other. */
export const DragList = ({
  ids,
  nameOf,
  way,
  drop,
  children,
}: {
  ids: readonly string[]
  nameOf: (id: string) => string
  way: 'down' | 'across'
  drop: (id: string, placeOf: string) => void
  children: ReactNode
}) => {
  const sensors = useSensors(
    useSensor(MouseSensor, mouse),
    useSensor(TouchSensor, finger),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates, keyboardCodes }),
  )
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={underPointer}
      accessibility={{
        // what is said stands outside of the list, whose roles allow no other children
        container: document.body,
        announcements: announcementsOf(nameOf),
        screenReaderInstructions: { draggable: 'Press Space to move it.' },
      }}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) drop(String(active.id), String(over.id))
      }}
    >
      <SortableContext
        items={[...ids]}
        strategy={way === 'down' ? verticalListSortingStrategy : horizontalListSortingStrategy}
      >
        {children}
      </SortableContext>
    </DndContext>
  )
}

const marks = {
  down: { before: 'shadow-[0_-2px_0_var(--rubric)]!', after: 'shadow-[0_2px_0_var(--rubric)]!' },
  across: {
    before: 'shadow-[inset_3px_0_0_var(--rubric)]!',
    after: 'shadow-[inset_-3px_0_0_var(--rubric)]!',
  },
} as const

/** An item of a `DragList`: what its element is given, its look while something is dragged, and what its handle needs for the keys. */
export const useDragItem = (id: string, way: keyof typeof marks, disabled: boolean) => {
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging, isOver, activeIndex, index } = useSortable({
    id,
    disabled: { draggable: disabled, droppable: false },
    transition: null,
  })
  const chooseLook = (): string => {
    if (isDragging) return 'opacity-60'
    return isOver ? marks[way][activeIndex > index ? 'before' : 'after'] : ''
  }
  return {
    frame: {
      ref: setNodeRef,
      onMouseDown: listeners?.onMouseDown as MouseEventHandler | undefined,
      onTouchStart: listeners?.onTouchStart as TouchEventHandler | undefined,
    },
    look: chooseLook(),
    keys: { ref: setActivatorNodeRef, onKeyDown: listeners?.onKeyDown as KeyboardEventHandler | undefined },
  }
}
