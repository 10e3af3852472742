/** What the compositor works pictures over with: see core/composite/plates.ts, which lays out the memory. */
export { blend, cover, restore } from './blend';
export { halve, shrink, smooth, widen } from './blur';
export { displace, streak } from './filter';
export { gradient } from './gradient';
export { addTinted, grain, grainPoints, mixColours, overWhite, vignette } from './lens';
export { grade, opaque, recode, seen, toBytes } from './tone';
export { layLattice, vapour } from './vapour';
export { cube } from './cube';
export { bend, split } from './bend';
export { carry, spread } from './carry';
export { pin, warp } from './warp';
