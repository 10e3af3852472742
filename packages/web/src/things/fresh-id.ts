/** An id that no thing of any document has. */
export function freshId(kind: string): string {
  return `${kind}-${crypto.randomUUID().slice(0, 8)}`;
}
