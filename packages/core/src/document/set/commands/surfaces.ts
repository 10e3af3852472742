import { hexToLinear, type Finish } from '../../../finish/index.ts';
import type { SetSurface } from '../types.ts';
import type { SetCommand } from './things.ts';

const edit = (id: string, label: string, run: (surface: SetSurface) => void): SetCommand => ({
  label,
  run: (set) => {
    const surface = set.surfaces.find((s) => s.id === id);
    if (surface) run(surface);
  },
});

/** Colours a surface: its finish where it has one. */
export function paintSurface(id: string, hex: string, name: string): SetCommand {
  return edit(id, `Paint ${name}`, (surface) => {
    if (surface.finish) surface.finish.baseColor = hexToLinear(hex) ?? surface.finish.baseColor;
    else surface.colour = hex;
  });
}

/** Gives a surface a whole finish; null brings its plain colour back. */
export function finishSurface(id: string, finish: Finish | null, name: string): SetCommand {
  return edit(id, finish ? `${finish.name} on ${name}` : 'Plain colour', (surface) => {
    surface.finish = finish && (JSON.parse(JSON.stringify(finish)) as Finish);
  });
}
