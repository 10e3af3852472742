import type { Layer, PromoDocument, TakeComposite, Title } from '../document/index.ts';
import { filledTitle } from './variables.ts';

/** A font that ships with Tender Orbit. `files` are paths inside the font packages, Latin first. */
export interface TitleFont {
  id: string;
  label: string;
  files: string[];
  /** The script that it is for: text of it is drawn in this font where the chosen one lacks it. */
  script?: Script;
  /** Of a variable font: from and to which weights and widths (percent) it goes. */
  axes?: { weight: [least: number, most: number]; stretch?: [least: number, most: number] };
}

/** Scripts besides Latin, by what their letters match. */
const SCRIPTS = {
  world: /[\p{Script=Greek}\p{Script=Cyrillic}]/u,
  arabic: /\p{Script=Arabic}/u,
  hebrew: /\p{Script=Hebrew}/u,
  devanagari: /\p{Script=Devanagari}/u,
  korean: /\p{Script=Hangul}/u,
  japanese: /[\p{Script=Hiragana}\p{Script=Katakana}]/u,
  chinese: /\p{Script=Han}/u,
} as const;
type Script = keyof typeof SCRIPTS;

const files = (family: string, weight: number, subsets: readonly string[], style = 'normal'): string[] =>
  subsets.map((subset) => `${family}/files/${family}-${subset}-${weight}-${style}.woff2`);
const both = (family: string, weight: number, style = 'normal'): string[] =>
  files(family, weight, ['latin', 'latin-ext'], style);
const variable = (family: string, axes: string, style = 'normal'): string[] =>
  ['latin', 'latin-ext'].map((subset) => `${family}-variable/files/${family}-${subset}-${axes}-${style}.woff2`);
const WIDE = ['latin', 'latin-ext', 'cyrillic'];

/** All of them are under the SIL Open Font License. */
export const TITLE_FONTS: readonly TitleFont[] = [
  { id: 'fraunces-600', label: 'Fraunces', files: both('fraunces', 600) },
  { id: 'fraunces-400-italic', label: 'Fraunces italic', files: both('fraunces', 400, 'italic') },
  { id: 'hanken-grotesk-500', label: 'Hanken Grotesk', files: both('hanken-grotesk', 500) },
  { id: 'hanken-grotesk-800', label: 'Hanken Grotesk heavy', files: both('hanken-grotesk', 800) },
  { id: 'spline-sans-mono-500', label: 'Spline Sans Mono', files: both('spline-sans-mono', 500) },
  { id: 'cormorant-garamond-500', label: 'Cormorant Garamond', files: files('cormorant-garamond', 500, WIDE) },
  {
    ...{ id: 'cormorant-garamond-500-italic', label: 'Cormorant Garamond italic' },
    files: files('cormorant-garamond', 500, WIDE, 'italic'),
  },
  { id: 'lora-500', label: 'Lora', files: files('lora', 500, WIDE) },
  { id: 'lora-700', label: 'Lora bold', files: files('lora', 700, WIDE) },
  { id: 'abril-fatface-400', label: 'Abril Fatface', files: both('abril-fatface', 400) },
  { id: 'bebas-neue-400', label: 'Bebas Neue', files: both('bebas-neue', 400) },
  { id: 'barlow-condensed-500', label: 'Barlow Condensed', files: both('barlow-condensed', 500) },
  { id: 'barlow-condensed-700', label: 'Barlow Condensed bold', files: both('barlow-condensed', 700) },
  { id: 'caveat-700', label: 'Caveat', files: files('caveat', 700, WIDE) },
  {
    ...{ id: 'archivo-variable', label: 'Archivo variable' },
    ...{ files: variable('archivo', 'standard'), axes: { weight: [100, 900], stretch: [62, 125] } },
  },
  {
    ...{ id: 'fraunces-variable', label: 'Fraunces variable' },
    ...{ files: variable('fraunces', 'wght'), axes: { weight: [100, 900] } },
  },
  {
    ...{ id: 'fraunces-variable-italic', label: 'Fraunces variable italic' },
    ...{ files: variable('fraunces', 'wght', 'italic'), axes: { weight: [100, 900] } },
  },
  { id: 'great-vibes-400', label: 'Great Vibes', files: both('great-vibes', 400) },
  {
    ...{ id: 'noto-sans-500', label: 'Noto Sans: Greek, Cyrillic', script: 'world' },
    files: files('noto-sans', 500, [...WIDE, 'greek', 'cyrillic-ext', 'vietnamese']),
  },
  { id: 'noto-sans-800', label: 'Noto Sans heavy', files: files('noto-sans', 800, [...WIDE, 'greek']) },
  {
    ...{ id: 'noto-sans-arabic-500', label: 'Noto Sans Arabic', script: 'arabic' },
    files: files('noto-sans-arabic', 500, ['arabic']),
  },
  {
    ...{ id: 'noto-sans-hebrew-500', label: 'Noto Sans Hebrew', script: 'hebrew' },
    files: files('noto-sans-hebrew', 500, ['hebrew']),
  },
  {
    ...{ id: 'noto-sans-devanagari-500', label: 'Noto Sans Devanagari', script: 'devanagari' },
    files: files('noto-sans-devanagari', 500, ['devanagari']),
  },
  {
    ...{ id: 'noto-sans-jp-500', label: 'Noto Sans Japanese', script: 'japanese' },
    files: files('noto-sans-jp', 500, ['japanese']),
  },
  {
    ...{ id: 'noto-sans-sc-500', label: 'Noto Sans Chinese', script: 'chinese' },
    files: files('noto-sans-sc', 500, ['chinese-simplified']),
  },
  {
    ...{ id: 'noto-sans-kr-500', label: 'Noto Sans Korean', script: 'korean' },
    files: files('noto-sans-kr', 500, ['korean']),
  },
];

/** Fonts that any text falls back to. */
export const BASE_FONTS = TITLE_FONTS.slice(0, 5);

/** Names that the files of a font are known by to the painter. */
export const familyNames = ({ id, files: own }: TitleFont): string[] =>
  own.map((_, i) => (i === 0 ? id : `${id}-${i}`));

export interface FontedText {
  font: string;
  text: string;
}

/** The package that a file of TITLE_FONTS is in, and its place there. */
export function fontModule(file: string): { module: string; path: string } {
  const [family, ...rest] = file.split('/');
  const variable = family.replace(/-variable$/, '');
  const module = variable === family ? `@fontsource/${family}` : `@fontsource-variable/${variable}`;
  return { module, path: rest.join('/') };
}

/** Where the painter asks for fonts that were brought, by their hashes. */
const OWN = 'own/';
const ownFont = (asset: string): TitleFont => ({ id: asset, label: '', files: [`${OWN}${asset}`] });
const isOwn = (font: string): boolean => /^[0-9a-f]{64}$/.test(font);

/** The hash of a font that was brought, of the file that the painter asks for; null for one that ships. */
export const ownFontAsset = (file: string): string | null => {
  const asset = file.startsWith(OWN) ? file.slice(OWN.length) : '';
  return isOwn(asset) ? asset : null;
};

/** The fonts that a text is drawn in, the chosen one first: the same wherever it is drawn, whatever else is there. */
export function fontsFor({ font, text }: FontedText): TitleFont[] {
  const chosen = isOwn(font) ? [ownFont(font)] : TITLE_FONTS.filter((one) => one.id === font);
  const scripts = TITLE_FONTS.filter(({ script }) => script && SCRIPTS[script].test(text));
  return [...new Set([...chosen, ...BASE_FONTS, ...scripts])];
}

/** Files of the fonts that texts need. */
export const fontFiles = (texts: Iterable<FontedText>): string[] => [
  ...new Set([...BASE_FONTS, ...[...texts].flatMap(fontsFor)].flatMap(({ files: own }) => own)),
];

/** Texts of layers with their fonts. */
export const layerTexts = (layers: readonly Layer[]): FontedText[] =>
  layers.flatMap((l) => (l.kind === 'text' ? [{ font: l.font, text: l.text }] : []));

/** The texts of a title, with the font that each is set in. */
export const titleFonts = ({ text, font, runs = [] }: Title): FontedText[] => [
  { font, text },
  ...runs.flatMap((run) => (run.font ? [{ font: run.font, text: text.slice(run.from, run.to) }] : [])),
];

/** Texts of a promo and of the composites that it shows, with their fonts. */
export function promoTexts(promo: PromoDocument, composites: readonly TakeComposite[]): FontedText[] {
  const shots = composites.flatMap((c) => [c.shot, ...Object.values(c.others ?? {}).map(({ shot }) => shot)]);
  return [
    ...promo.titles.flatMap((title) => titleFonts(filledTitle(title, promo.variables))),
    ...layerTexts([...promo.layers, ...shots.flatMap(({ layers }) => layers)]),
  ];
}

/** Whether text runs from right to left: as its first letter of a script that has a side does. */
export const runsLeft = (text: string): boolean => /^[^\p{L}]*[\p{Script=Arabic}\p{Script=Hebrew}]/u.test(text);
