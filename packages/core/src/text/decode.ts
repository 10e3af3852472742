/**
 * UTF-8 as text; malformed bytes become U+FFFD. Core has no host objects that could do it.
 */
export function textOf(bytes: Uint8Array): string {
  const start = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  let out = '';
  const chunk: number[] = [];
  for (let i = start; i < bytes.length;) {
    // Most of it is plain ASCII, which goes in runs.
    const run = i;
    while (i < bytes.length && bytes[i] < 0x80 && i - run < 8192) i++;
    if (i > run) {
      out += String.fromCodePoint(...chunk.splice(0)) + String.fromCharCode(...bytes.subarray(run, i));
      continue;
    }
    const b = bytes[i++];
    let code = b;
    const extra = b >= 0xf0 ? 3 : b >= 0xe0 ? 2 : b >= 0xc0 ? 1 : 0;
    if (extra > 0) {
      code = b & (0x3f >> extra);
      for (let k = 0; k < extra; k++) code = (code << 6) | (bytes[i++] & 0x3f);
    } else if (b >= 0x80) code = 0xfffd;
    chunk.push(code > 0x10ffff ? 0xfffd : code);
    if (chunk.length >= 8192) out += String.fromCodePoint(...chunk.splice(0));
  }
  return out + String.fromCodePoint(...chunk);
}
