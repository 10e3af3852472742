/**
 * The beginning of a text, at most `most` UTF-16 units long and never ending in half a character: half of a surrogate pair
 * is no text, and no database takes it.
 */
export function shortened(text: string, most: number): string {
  if (text.length <= most) return text;
  const last = text.charCodeAt(most - 1);
  return text.slice(0, last >= 0xd800 && last <= 0xdbff ? most - 1 : most);
}
