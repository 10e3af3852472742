import type { ViewTransform } from '../document/index.ts';

/** View transforms as the kernel numbers them. */
export const VIEWS: readonly ViewTransform[] = ['plain', 'neutral', 'filmic'];
