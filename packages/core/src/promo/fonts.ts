/** A font that ships with Tender Orbit. `files` are paths inside the font packages, Latin then extended Latin. */
export interface TitleFont {
  id: string;
  label: string;
  files: string[];
}

const both = (family: string, weight: number, style = 'normal'): string[] =>
  ['latin', 'latin-ext'].map((subset) => `${family}/files/${family}-${subset}-${weight}-${style}.woff2`);

export const TITLE_FONTS: readonly TitleFont[] = [
  { id: 'fraunces-600', label: 'Fraunces', files: both('fraunces', 600) },
  { id: 'fraunces-400-italic', label: 'Fraunces italic', files: both('fraunces', 400, 'italic') },
  { id: 'hanken-grotesk-500', label: 'Hanken Grotesk', files: both('hanken-grotesk', 500) },
  { id: 'hanken-grotesk-800', label: 'Hanken Grotesk heavy', files: both('hanken-grotesk', 800) },
  { id: 'spline-sans-mono-500', label: 'Spline Sans Mono', files: both('spline-sans-mono', 500) },
];
