export { useEffects } from './effects.ts';
