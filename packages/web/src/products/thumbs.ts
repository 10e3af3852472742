import { shallowReactive } from 'vue';

/** Small pictures kept in the browser by what they show. */
const pictures = shallowReactive(new Map<string, string>());
const PREFIX = 'tender-orbit:thumb:';

export function rememberedPicture(name: string): string | null {
  if (!pictures.has(name)) {
    let stored: string | null = null;
    try {
      stored = localStorage.getItem(PREFIX + name);
    } catch {
      // Without storage the pictures last as long as the page.
    }
    if (stored) pictures.set(name, stored);
  }
  return pictures.get(name) ?? null;
}

/** @param keep also beyond the page's life. */
export function rememberPicture(name: string, picture: string, keep: boolean): void {
  pictures.set(name, picture);
  if (!keep) return;
  try {
    localStorage.setItem(PREFIX + name, picture);
  } catch {
    forgetStored();
  }
}

/** Storage is full: pictures can be made again, other things kept there cannot. */
function forgetStored(): void {
  try {
    for (const key of Object.keys(localStorage)) if (key.startsWith(PREFIX)) localStorage.removeItem(key);
  } catch {
    // See rememberedPicture().
  }
}
