import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { colord, extend } from 'colord';
import names from 'colord/plugins/names';
import svgpath from 'svgpath';
import { Problem } from '../problem/index.ts';

/** A vector picture as lines: what of an SVG file is drawn. Its own lengths, y down. */
export interface VectorPicture {
  width: number;
  height: number;
  shapes: readonly VectorShape[];
}

export interface VectorShape {
  /** SVG path data, transformed into the picture's lengths. */
  path: string;
  /** sRGB as #RRGGBB; empty: not filled. */
  fill: string;
  fillOpacity: number;
  evenOdd: boolean;
  /** Empty: no line. */
  stroke: string;
  strokeOpacity: number;
  strokeWidth: number;
}

extend([names]);

/** Shapes and characters of a file that are taken at most. */
const MOST_SHAPES = 2000;
const MOST_TEXT = 4_000_000;

type Values = Readonly<Record<string, string>>;
/** An element as the parser gives it with its order kept: its name with its children, and its attributes beside it. */
type Node = Record<string, unknown>;

/** What children take from what they lie in (SVG 2, 6.1). */
const INHERITED = ['fill', 'stroke', 'stroke-width', 'fill-opacity', 'stroke-opacity', 'fill-rule'];
/** What is not drawn where it stands. */
const HIDDEN = new Set(['defs', 'clipPath', 'mask', 'symbol', 'pattern', 'linearGradient', 'radialGradient', 'style']);

/**
 * Reads the shapes of an SVG file (SVG 2: paths and basic shapes, groups, transforms, presentation attributes, style attributes and rules
 * for classes). A gradient is its first colour. Text, pictures and filters are left out.
 * @throws Problem `vector/unreadable` naming the file.
 */
export function readVector(text: string, name: string): VectorPicture {
  const refuse = (why: string): Problem => new Problem('vector/unreadable', `"${name}" ${why}`, 'Logo');
  if (text.length > MOST_TEXT) throw refuse('is larger than 4 MB: simplify its outlines.');
  if (XMLValidator.validate(text) !== true) throw refuse('is no sound SVG file: export it again as plain SVG.');
  const parser = new XMLParser({
    ...{ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '', processEntities: false },
    ...{ parseAttributeValue: false, parseTagValue: false },
  });
  const root = (parser.parse(text) as Node[]).find((node) => 'svg' in node);
  if (!root) throw refuse('holds no drawing: choose an SVG file.');
  const own = attributes(root);
  const box = (own.viewBox ?? '').split(/[\s,]+/).map(Number);
  const sized = box.length === 4 && box.every(Number.isFinite);
  const [x, y, width, height] = sized ? box : [0, 0, Number.parseFloat(own.width), Number.parseFloat(own.height)];
  if (!(width > 0 && height > 0)) throw refuse('says no size: give it a viewBox.');
  const reader = new Reader(root);
  reader.read(children(root), own, [`translate(${-x} ${-y})`]);
  if (reader.shapes.length === 0)
    throw refuse('holds no outlines: turn its text and pictures into paths and export it again.');
  return { width, height, shapes: reader.shapes };
}

const nameOf = (node: Node): string => Object.keys(node).find((key) => key !== ':@') ?? '';
const children = (node: Node): Node[] => (node[nameOf(node)] as Node[] | undefined) ?? [];
const attributes = (node: Node): Values => (node[':@'] as Values | undefined) ?? {};

class Reader {
  readonly shapes: VectorShape[] = [];
  /** Declarations by class, and the first colours of gradients by id. */
  private readonly classes = new Map<string, Values>();
  private readonly gradients = new Map<string, string>();

  constructor(root: Node) {
    const visit = (node: Node): void => {
      const name = nameOf(node);
      const { id } = attributes(node);
      if (name === 'style')
        this.rules(
          children(node)
            .map((c) => String(c['#text'] ?? ''))
            .join('\n'),
        );
      if (id && name.endsWith('Gradient')) {
        const stop = children(node).find((c) => nameOf(c) === 'stop');
        const values = stop ? { ...attributes(stop), ...declarations(attributes(stop).style) } : {};
        if (values['stop-color']) this.gradients.set(id, values['stop-color']);
      }
      for (const child of Array.isArray(node[name]) ? children(node) : []) visit(child);
    };
    visit(root);
  }

  private rules(css: string): void {
    for (const [, selectors, body] of css.matchAll(/([^{}]+)\{([^}]*)\}/g))
      for (const selector of selectors.split(',')) {
        const name = /^\s*\.([\w-]+)\s*$/.exec(selector)?.[1];
        if (name) this.classes.set(name, { ...this.classes.get(name), ...declarations(body) });
      }
  }

  read(nodes: readonly Node[], inherited: Values, transforms: readonly string[]): void {
    for (const node of nodes) {
      const name = nameOf(node);
      if (name.startsWith('#') || name.startsWith('?') || HIDDEN.has(name)) continue;
      const plain = attributes(node);
      const styled = (plain.class ?? '').split(/\s+/).map((c) => this.classes.get(c) ?? {});
      const own: Values = Object.assign({}, plain, ...styled, declarations(plain.style)) as Values;
      if (own.display === 'none' || own.visibility === 'hidden') continue;
      const kept = Object.fromEntries(INHERITED.flatMap((key) => (inherited[key] ? [[key, inherited[key]]] : [])));
      const values: Record<string, string> = { ...kept, ...own };
      values.opacity = String(number(inherited.opacity, 1) * number(own.opacity, 1));
      const within = own.transform ? [...transforms, own.transform] : transforms;
      if (name === 'g' || name === 'svg' || name === 'a') this.read(children(node), values, within);
      else this.shape(outline(name, own), values, within);
    }
  }

  private shape(d: string, values: Values, transforms: readonly string[]): void {
    if (d === '' || this.shapes.length >= MOST_SHAPES) return;
    // The last transform acts first.
    const path = transforms.reduceRight((p, t) => p.transform(t), svgpath(d).abs()).unarc();
    const fill = this.colour(values.fill ?? '#000000');
    const stroke = this.colour(values.stroke ?? 'none');
    if (fill === '' && stroke === '') return;
    const opacity = number(values.opacity, 1);
    this.shapes.push({
      ...{ path: path.round(4).toString(), fill, stroke, evenOdd: values['fill-rule'] === 'evenodd' },
      fillOpacity: opacity * number(values['fill-opacity'], 1),
      strokeOpacity: opacity * number(values['stroke-opacity'], 1),
      strokeWidth: number(values['stroke-width'], 1),
    });
  }

  private colour(value: string): string {
    if (value === 'none' || value === 'transparent') return '';
    const gradient = /^url\(\s*["']?#([^)"']+)/.exec(value)?.[1];
    const read = colord(gradient === undefined ? value : (this.gradients.get(gradient) ?? '#808080'));
    // What the surroundings would say, and what cannot be read, is black as unset fills are.
    return read.isValid() ? read.alpha(1).toHex().toUpperCase() : '#000000';
  }
}

function declarations(style: string | undefined): Values {
  const found = [...(style ?? '').matchAll(/([\w-]+)\s*:\s*([^;]+)/g)];
  return Object.fromEntries(found.map(([, name, value]) => [name, value.trim()]));
}

function number(value: string | undefined, usual: number): number {
  const v = Number.parseFloat(value ?? '');
  return Number.isFinite(v) ? v : usual;
}

/** A basic shape as path data (SVG 2, 10); empty for what has no outline. */
function outline(name: string, v: Values): string {
  const n = (key: string, usual = 0): number => number(v[key], usual);
  switch (name) {
    case 'path':
      return v.d ?? '';
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (!(w > 0 && h > 0)) return '';
      const rx = Math.min(w / 2, n('rx', n('ry')));
      const ry = Math.min(h / 2, n('ry', rx));
      if (rx === 0 || ry === 0) return `M ${x} ${y} h ${w} v ${h} h ${-w} Z`;
      const arc = (dx: number, dy: number): string => `a ${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      const [straight, upright] = [w - 2 * rx, h - 2 * ry];
      return [
        `M ${x + rx} ${y} h ${straight} ${arc(rx, ry)} v ${upright} ${arc(-rx, ry)}`,
        `h ${-straight} ${arc(-rx, -ry)} v ${-upright} ${arc(rx, -ry)} Z`,
      ].join(' ');
    }
    case 'circle':
    case 'ellipse': {
      const [cx, cy, rx, ry] = [n('cx'), n('cy'), n('rx', n('r')), n('ry', n('r'))];
      if (!(rx > 0 && ry > 0)) return '';
      return `M ${cx - rx} ${cy} a ${rx} ${ry} 0 1 1 ${2 * rx} 0 a ${rx} ${ry} 0 1 1 ${-2 * rx} 0 Z`;
    }
    case 'line':
      return `M ${n('x1')} ${n('y1')} L ${n('x2')} ${n('y2')}`;
    case 'polyline':
    case 'polygon': {
      const points = (v.points ?? '')
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      if (points.length < 4 || !points.every(Number.isFinite)) return '';
      const spots = Array.from({ length: points.length >> 1 }, (_, i) => `${points[i * 2]} ${points[i * 2 + 1]}`);
      return `M ${spots.join(' L ')}${name === 'polygon' ? ' Z' : ''}`;
    }
    default:
      return '';
  }
}
