import { ownSubject } from '@tender-orbit/core/product';
import type { useCampaign } from '../stores/index.ts';

/** The part, label or finish of a placed product that an own path is about, in words; empty for other paths. */
export function subjectIn(campaign: ReturnType<typeof useCampaign>, thing: string, path: string): string {
  const item = campaign.set?.products.find((p) => p.id === thing);
  const product = campaign.products.get(item?.product ?? '');
  return product ? ownSubject(product, path) : '';
}

/** A property's name with what it is of: "Lid: turn". */
export function labelIn(campaign: ReturnType<typeof useCampaign>, thing: string, path: string, label: string): string {
  const subject = subjectIn(campaign, thing, path);
  return subject ? `${subject}: ${label.toLowerCase()}` : label;
}
