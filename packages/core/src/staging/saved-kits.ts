import { cos, sin } from '../maths/index.ts';
import type { PlacedLights, Point, SavedKit, SetDocument } from '../document/index.ts';
import type { Subject } from './light-kits.ts';

/** Keeps a set's lights, cards and room with what they stand round, for other products and cameras. */
export function keepKit(set: SetDocument, { centre, radius, cameraTurn }: Subject, id: string, name: string): SavedKit {
  return JSON.parse(
    JSON.stringify({
      ...{ id, name, centre, radius, cameraTurn },
      lights: set.lights,
      cards: set.surfaces.filter((s) => s.kind === 'card'),
      room: set.environment.intensity,
    }),
  ) as SavedKit;
}

/**
 * Sets a kept kit up round another product: turned to its camera, grown with it, and each light's lumens with the square of
 * the distance, so that the product gets the same light. Ids begin with `prefix`.
 */
export function placeSavedKit(kit: SavedKit, subject: Subject, prefix: string): PlacedLights {
  const grow = subject.radius / kit.radius;
  const turn = ((subject.cameraTurn - kit.cameraTurn) * Math.PI) / 180;
  const moved = (p: Point, above = -Infinity): Point => {
    const [x, y, z] = p.map((v, a) => (v - kit.centre[a]) * grow);
    const [cosine, sine] = [cos(turn), sin(turn)];
    const [cx, cy, cz] = subject.centre;
    return [cx + x * cosine + z * sine, Math.max(above, cy + y), cz + z * cosine - x * sine];
  };
  const ids = new Map(kit.lights.map((light, i) => [light.id, `${prefix}-${i}`]));
  return {
    room: kit.room,
    lights: kit.lights.map((light) => ({
      ...light,
      id: ids.get(light.id)!,
      position: moved(light.position, 0.02),
      aim: moved(light.aim),
      width: light.width * grow,
      height: light.height * grow,
      // A sun's light does not fall off.
      lumens: light.shape === 'sun' ? light.lumens : light.lumens * grow * grow,
      gobo: {
        ...light.gobo,
        distance: light.gobo.distance * grow,
        width: light.gobo.width * grow,
        height: light.gobo.height * grow,
      },
      // Which things it was linked to are not those of another set.
      lightLinking: { mode: 'all', things: [] },
    })),
    cards: kit.cards.map((card, i) => ({
      ...card,
      id: `${prefix}-card-${i}`,
      position: moved(card.position, 0.01),
      aim: moved(card.aim),
      width: card.width * grow,
      height: card.height * grow,
    })),
  };
}
