import type { CampaignDocument, ProductDocument, SetDocument, ShotDocument } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { DocumentRepository } from '../documents/index.ts';

/** A shot with everything it is made of, as it stands now. */
export interface WholeShot {
  id: string;
  campaignId: string;
  campaign: CampaignDocument;
  shot: ShotDocument;
  set: SetDocument;
  /** Products that stand on the set, by id. */
  products: Record<string, ProductDocument>;
}

/** @throws Problem `shot/no-camera` when the shot's camera is gone from the set. */
export async function shotOf(documents: DocumentRepository, id: string, person: string): Promise<WholeShot> {
  const shot = await documents.get('shot', id, person);
  const set = await documents.get('set', shot.document.set, person);
  const campaign = await documents.get('campaign', shot.campaign, person);
  const used = new Set(set.document.products.filter((p) => p.visible).map((p) => p.product));
  const products = (await documents.list('product', shot.campaign)).filter((p) => used.has(p.id));
  if (!set.document.cameras.some((c) => c.id === shot.document.camera))
    throw new Problem(
      'shot/no-camera',
      `The camera of shot "${shot.document.name}" is no longer in the set: choose another camera.`,
      shot.document.name,
    );
  return {
    ...{ id: shot.id, campaignId: shot.campaign },
    ...{ campaign: campaign.document, shot: shot.document, set: set.document },
    products: Object.fromEntries(products.map((p) => [p.id, p.document])),
  };
}
