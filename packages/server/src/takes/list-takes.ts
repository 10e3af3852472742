import { shortened } from '@tender-orbit/core/text';
import type { TakeSummary } from '@tender-orbit/core/contract';
import type { FrameChoice } from '@tender-orbit/core/document';
import type { FrameStore } from './frame-store.ts';
import type { Database } from '../database/index.ts';

type Raw = Omit<
  TakeSummary,
  'done' | 'failed' | 'secondsLeft' | 'passes' | 'lights' | 'bytes' | 'error' | 'frames' | 'times'
> & {
  /** As JSON. */
  frames: string | null;
  times: string | null;
  /** Frames that are still to be rendered, and not taken from others. */
  toRender: number;
  passes: number;
  lights: number;
};

/** The takes of a campaign as they lie on their shelves, newest first until they are put elsewhere, with which frames are there. */
export async function listTakes(
  { db, config, frames }: { db: Database; config: { renderWorkers: number }; frames: FrameStore },
  campaign: string,
): Promise<TakeSummary[]> {
  const takes = await db.rows<Raw>(
    `SELECT t.id, t.shot_id AS shot, t.name, t.quality, t.width, t.height, t.length, p.state,
       (SELECT COUNT(*) FROM jobs j WHERE j.subject_id = t.id AND j.kind NOT IN ('take-trace', 'take-simulate')
         AND j.payload IS NULL AND j.state <> 'done') AS toRender,
       (SELECT SUM(seconds) / NULLIF(SUM(kind NOT IN ('take-trace', 'take-simulate') AND payload IS NULL AND seconds IS NOT NULL), 0) FROM jobs j
         WHERE j.subject_id = t.id AND j.state = 'done' AND j.kind <> 'take-simulate') AS secondsPerFrame,
       DATE_FORMAT(t.created_at, '%Y-%m-%dT%H:%i:%sZ') AS createdAt,
       JSON_QUERY(t.snapshot, '$.frames') AS frames,
       JSON_QUERY(t.snapshot, '$.times') AS times,
       COALESCE(JSON_VALUE(t.snapshot, '$.passes'), 0) AS passes,
       COALESCE(JSON_VALUE(t.snapshot, '$.passes'), 0) OR COALESCE(JSON_VALUE(t.snapshot, '$.lights'), 0) AS lights
     FROM takes t JOIN take_progress p ON p.take_id = t.id WHERE t.campaign_id = ? ORDER BY t.position, t.created_at DESC, t.id`,
    [campaign],
  );
  const jobs = await db.rows<{ take: string; frame: number; state: string; error: string | null }>(
    `SELECT subject_id AS take, part AS frame, state, error FROM jobs
     WHERE campaign_id = ? AND queue = 'render' AND ((state = 'done' AND kind NOT IN ('take-trace', 'take-simulate')) OR state = 'failed')
     ORDER BY part, id`,
    [campaign],
  );
  const byTake = new Map<string, typeof jobs>(takes.map((take) => [take.id, []]));
  for (const frame of jobs) byTake.get(frame.take)?.push(frame);
  const summary = async (take: Raw): Promise<TakeSummary> => {
    const own = byTake.get(take.id)!;
    const done = own.filter((f) => f.state === 'done').map((f) => f.frame);
    const failed = own.filter((f) => f.state === 'failed');
    const { toRender, ...told } = take;
    const left = Number(toRender);
    const threads = Math.max(1, Math.min(left, config.renderWorkers));
    const pace = take.secondsPerFrame === null ? null : Number(take.secondsPerFrame);
    return {
      ...told,
      frames: take.frames === null ? null : (JSON.parse(take.frames) as FrameChoice),
      times: take.times === null ? null : (JSON.parse(take.times) as number[]),
      ...{ done, failed: failed.map((f) => f.frame), passes: Number(take.passes) === 1 },
      lights: Number(take.lights) === 1,
      bytes: await frames.bytesOf(take.id, done.length),
      error: failed.length > 0 ? shortened(`Frame ${failed[0].frame + 1}: ${failed[0].error}`, 500) : null,
      secondsPerFrame: pace,
      secondsLeft: pace === null || left === 0 ? null : (left * pace) / threads,
    };
  };
  return Promise.all(takes.map(summary));
}
