import type { Command } from '../../edit.ts';
import type { ProductDocument } from '../types.ts';

export type ProductCommand = Command<ProductDocument>;

export const command = (label: string, run: (product: ProductDocument) => void): ProductCommand => ({ label, run });
