/** "1 shot", "2 shots". */
export const countOf = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
