/** A part of the music over frames of a ruler. */
export interface RulerPart {
  from: number;
  to: number;
  kind: 'quiet' | 'steady' | 'build' | 'drop';
}
