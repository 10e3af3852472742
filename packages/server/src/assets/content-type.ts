import { fileTypeFromBuffer } from 'file-type';

/** Bytes from the start of a file that are enough to tell its type. */
export const SNIFF_BYTES = 4100;

/** The media type by content; names and headers are not believed. Unknown content is octet-stream (a .bin of a .gltf). */
export async function contentType(head: Uint8Array): Promise<string> {
  const known = await fileTypeFromBuffer(head);
  if (known) {
    const mime = known.mime.split(';')[0];
    return mime === 'audio/wave' || mime === 'audio/x-wav' || mime === 'audio/vnd.wave' ? 'audio/wav' : mime;
  }
  const start = Buffer.from(head)
    .toString('utf8')
    .replace(/^\uFEFF/, '')
    .trimStart();
  if (start.startsWith('{')) return 'model/gltf+json';
  return 'application/octet-stream';
}

/** "a PNG picture", for a sentence that says why a file is not what was asked for. */
export function describeType(mime: string): string {
  const [family, format = ''] = mime.split('/');
  const name = format.replace(/^(x-|vnd\.)/, '').toUpperCase();
  if (family === 'image') return `a ${name} picture`;
  if (family === 'audio') return `a ${name} sound`;
  if (family === 'video') return `a ${name} video`;
  if (mime === 'model/gltf-binary' || mime === 'model/gltf+json') return 'a glTF model';
  return mime === 'application/octet-stream' ? 'of no known type' : `of type ${mime}`;
}
