import { DndContext, DragOverlay, pointerWithin, useDraggable, useDroppable } from '@dnd-kit/core'
import { useState, type MouseEventHandler, type ReactNode, type TouchEventHandler } from 'react'
import { usePointerSensors } from './drag-list.tsx'

/**
 * Things that are dragged onto places with the mouse or a finger; what is dragged goes under the pointer as its name.
 * The keys reach the same by the choice that a click on the thing opens.
 */
export const DragOnto = ({
  nameOf,
  drop,
  children,
}: {
  nameOf: (thing: string) => string
  drop: (thing: string, place: string) => void
  children: ReactNode
}) => {
  const [dragged, setDragged] = useState<string>()
  const sensors = usePointerSensors()
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      // what is said stands outside of what is dragged in, whose roles may allow no other children
      accessibility={{
        container: document.body,
        announcements: {
          onDragStart: ({ active }) => `${nameOf(String(active.id))} is picked up.`,
          onDragOver: () => undefined,
          onDragEnd: () => undefined,
          onDragCancel: ({ active }) => `${nameOf(String(active.id))} stays where it was.`,
        },
      }}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragCancel={() => setDragged(undefined)}
      onDragEnd={({ active, over }) => {
        setDragged(undefined)
        if (over) drop(String(active.id), String(over.id))
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        {dragged !== undefined && (
          <span className="figures inline-block rounded border border-rubric bg-sheet px-1.5 text-[12.5px]">
            {nameOf(dragged)}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  )
}

/** What the element of a thing that is dragged is given. */
export const useDragged = (thing: string) => {
  const { setNodeRef, listeners } = useDraggable({ id: thing })
  return {
    ref: setNodeRef,
    onMouseDown: listeners?.onMouseDown as MouseEventHandler | undefined,
    onTouchStart: listeners?.onTouchStart as TouchEventHandler | undefined,
  }
}

/** The ref of a place's element, and whether something is over it. */
export const useDropPlace = (place: string) => {
  const { setNodeRef, isOver } = useDroppable({ id: place })
  return { ref: setNodeRef, isOver }
}
