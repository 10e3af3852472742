import { shortened } from '../../../text/index.ts';
import type { FilePose, ProductDocument, Unwrap } from '../types.ts';
import { command, type ProductCommand } from './edit-product.ts';

export function renameProduct(name: string): ProductCommand {
  return command('Rename product', (product) => void (product.name = shortened(name, 120)));
}

/** Metres per unit of the file. */
export function chooseUnit(scale: number): ProductCommand {
  return command('Set unit of the file', (product) => void (product.scale = scale));
}

/** One side decides the real size; the others follow, since a product has one scale. */
export function sizeBySide(axis: number, metres: number): ProductCommand {
  return command('Set real size', (product) => {
    if (product.extent[axis] > 0) product.scale = Number((metres / product.extent[axis]).toPrecision(9));
  });
}

export function toggleOriginAtBase(): ProductCommand {
  return command('Origin at the base', ({ prepare }) => void (prepare.toBase = !prepare.toBase));
}

export function toggleNormals(): ProductCommand {
  return command('Repair normals', ({ prepare }) => void (prepare.normals = !prepare.normals));
}

/** Where the uv of a part comes from. */
export function chooseUnwrap(part: number, unwrap: Unwrap, name: string): ProductCommand {
  return command(`Uv of ${name}`, ({ prepare }) => {
    prepare.unwraps = prepare.unwraps.filter((u) => u.part !== part);
    if (unwrap !== 'file') prepare.unwraps.push({ part, unwrap });
  });
}

/** Shows or hides a part: in the first variant of the product itself, in another of that variant alone. */
export function showPart(part: number, variant: string, shown: boolean, name: string): ProductCommand {
  return command(`${shown ? 'Show' : 'Hide'} ${name}`, (product) => {
    const own = product.variants.find((v) => v.id === variant);
    const target = product.parts.find((p) => p.index === part);
    if (!own || !target) return;
    own.hidden = own.hidden.filter((h) => h !== part);
    if (shown) target.visible = true;
    else if (variant === product.variants[0].id) target.visible = false;
    else own.hidden.push(part);
  });
}

/** Puts the product into another pose of its file, read anew. */
export function poseProduct(model: string, extent: ProductDocument['extent'], pose: FilePose | null): ProductCommand {
  return command('Pose', (product) => {
    if (!product.origin) return;
    product.model = model;
    product.extent = [...extent];
    product.origin.pose = pose;
  });
}

/** Puts another state in the place of a product, as its builder or a variant from elsewhere makes it. */
export function replaceProduct(label: string, next: ProductDocument): ProductCommand {
  return command(label, (product) => void Object.assign(product, next));
}
