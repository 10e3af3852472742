import type { AssetStore } from '../assets/index.ts';

/**
 * Stores which pictures a film is made of, in order, as a file of its own: one hash a line. They stay as long as it does.
 *
 * @returns the hash of the list
 */
export async function listFrames(assets: AssetStore, frames: readonly string[], person: string): Promise<string> {
  const { hash } = await assets.put(Buffer.from(frames.join('\n')), person);
  for (const frame of new Set(frames)) await assets.madeOf(hash, frame);
  return hash;
}

/** The pictures of a film by the hash of its list. */
export async function framesOf(assets: AssetStore, list: string): Promise<string[]> {
  return (await assets.read(list)).toString().split('\n');
}
