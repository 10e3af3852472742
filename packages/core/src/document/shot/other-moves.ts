import type { Command } from '../edit.ts';
import { dropUnlinked, movesIn } from './commands.ts';
import type { MovesName, ShotDocument } from './types.ts';

type ShotCommand = Command<ShotDocument>;

/** Which version of a shot's moves is played. */
export const movesName = ({ other }: Pick<ShotDocument, 'other'>): MovesName => (other?.name === 'A' ? 'B' : 'A');

/** Begins a second version, alike at first, and goes on with it. The first is kept as it is. */
export function beginOtherMoves(): ShotCommand {
  return {
    label: 'Second version of the moves',
    run: (shot) => {
      if (shot.other) return;
      const { paths, rules, recipes } = shot;
      const first = { name: 'A', tracks: movesIn(shot), paths, rules, recipes };
      shot.other = JSON.parse(JSON.stringify(first)) as NonNullable<ShotDocument['other']>;
    },
  };
}

/** Plays the version of the moves that was not played; keys of the composite stay. */
export function switchMoves(): ShotCommand {
  return {
    label: 'Other version of the moves',
    run: (shot) => {
      const { other } = shot;
      if (!other) return;
      const now = movesName(shot);
      const moves = movesIn(shot);
      const kept = shot.tracks.filter((track) => !moves.includes(track));
      shot.other = { name: now, tracks: moves, paths: shot.paths, rules: shot.rules, recipes: shot.recipes };
      shot.tracks = [...kept, ...other.tracks];
      Object.assign(shot, { paths: other.paths, rules: other.rules, recipes: other.recipes });
    },
  };
}

/** Keeps the version that is played and drops the other. */
export function chooseMoves(): ShotCommand {
  return {
    label: 'Keep this version of the moves',
    run: (shot) => {
      shot.other = null;
      dropUnlinked(shot);
    },
  };
}
