import type { DrawnBox, Room } from '../kinds/index.ts';
import type { ViewTransform } from '../types.ts';
import type { SetCommand } from './things.ts';

export function changeRoom(label: string, values: Partial<Omit<Room, 'boxes'>>): SetCommand {
  return { label, run: (set) => void Object.assign(set.environment.room, values) };
}

/** Shows the room to the camera or hides it; it lights the set all the same. */
export function showRoom(seen: boolean): SetCommand {
  return { label: seen ? 'Show the room' : 'Hide the room', run: (set) => void (set.environment.seen = seen) };
}

export function chooseView(view: ViewTransform): SetCommand {
  return { label: 'Change view', run: (set) => void (set.view = view) };
}

export function addRoomBox(box: DrawnBox): SetCommand {
  return { label: 'Draw softbox', run: (set) => void set.environment.room.boxes.push(box) };
}

export function changeRoomBox(id: string, label: string, values: Partial<Omit<DrawnBox, 'id'>>): SetCommand {
  return {
    label,
    run: (set) => void Object.assign(set.environment.room.boxes.find((b) => b.id === id) ?? {}, values),
  };
}

export function deleteRoomBox(id: string): SetCommand {
  return {
    label: 'Delete softbox',
    run: ({ environment: { room } }) => void (room.boxes = room.boxes.filter((b) => b.id !== id)),
  };
}
