/** The files a .gltf refers to, by the address written in it; each must be among `files` by its name. */
export function resourcesOf<F extends { name: string }>(json: string, files: readonly F[]): Map<string, F> {
  let parsed: { buffers?: Array<{ uri?: string }>; images?: Array<{ uri?: string }> };
  try {
    parsed = JSON.parse(json) as typeof parsed;
  } catch {
    // Not JSON: the server says so in its own words, whatever the file is.
    return new Map();
  }
  const found = new Map<string, F>();
  for (const { uri } of [...(parsed.buffers ?? []), ...(parsed.images ?? [])]) {
    if (!uri || uri.startsWith('data:')) continue;
    const name = decodeURIComponent(uri).split('/').pop();
    const file = files.find((f) => f.name === name);
    if (file) found.set(uri, file);
  }
  return found;
}
