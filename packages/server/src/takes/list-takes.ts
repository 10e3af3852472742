import type { ServerConfig } from '../config.ts';
import type { Database } from '../database/index.ts';

export interface TakeSummary {
  id: string;
  shot: string;
  name: string;
  quality: string;
  width: number;
  height: number;
  length: number;
  state: 'rendering' | 'stopped' | 'done' | 'failed';
  error: string | null;
  /** Numbers of the finished frames. */
  done: number[];
  /** Mean seconds a finished frame took in its worker; null before the first. */
  secondsPerFrame: number | null;
  /** What is left at that pace, on all render threads of this machine; null before the first frame and at the end. */
  secondsLeft: number | null;
  createdAt: string;
  /** Whether each frame's layers are kept. */
  passes: boolean;
}

type Raw = Omit<TakeSummary, 'done' | 'secondsLeft' | 'passes'> & { passes: number };

/** The takes of a campaign, newest first, with which frames are there. */
export async function listTakes(
  { db, config }: { db: Database; config: Pick<ServerConfig, 'renderWorkers'> },
  campaign: string,
): Promise<TakeSummary[]> {
  const takes = await db.rows<Raw>(
    `SELECT t.id, t.shot_id AS shot, t.name, t.quality, t.width, t.height, t.length, t.state, t.error,
       (SELECT AVG(seconds) FROM take_frames f WHERE f.take_id = t.id AND f.state = 'done') AS secondsPerFrame,
       DATE_FORMAT(t.created_at, '%Y-%m-%dT%H:%i:%sZ') AS createdAt,
       COALESCE(JSON_VALUE(t.snapshot, '$.passes'), 0) AS passes
     FROM takes t WHERE t.campaign_id = ? ORDER BY t.created_at DESC, t.id`,
    [campaign],
  );
  const frames = await db.rows<{ take: string; frame: number }>(
    "SELECT f.take_id AS take, f.frame FROM take_frames f JOIN takes t ON t.id = f.take_id WHERE t.campaign_id = ? AND f.state = 'done' ORDER BY f.frame",
    [campaign],
  );
  const done = new Map<string, number[]>(takes.map((t) => [t.id, []]));
  for (const { take, frame } of frames) done.get(take)?.push(frame);
  return takes.map((t) => {
    const frames = done.get(t.id)!;
    const left = t.length - frames.length;
    const threads = Math.max(1, Math.min(left, config.renderWorkers));
    const secondsLeft = t.secondsPerFrame === null || left === 0 ? null : (left * t.secondsPerFrame) / threads;
    return { ...t, passes: Number(t.passes) === 1, done: frames, secondsLeft };
  });
}
