/** The size of a file or of many: `0.85 MB`, `12.4 MB`, `1.3 GB`. */
export function byteWords(bytes: number): string {
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 2 : 1)} MB`;
}
