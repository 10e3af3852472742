import { onBeforeUnmount, ref, type Ref } from 'vue';
import { addThings, replaceProduct, replaceTracks, type ProductDocument } from '@tender-orbit/core/document';
import type { ShatterSettings } from '@tender-orbit/core/simulate';
import { api, uploadFile, type StoredDocument } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import type { ShatterReply } from '../workers/shatter-worker.ts';
import { shatterClient } from './bodies-client.ts';

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * Breaks products: the pieces become a product of the campaign, stand on the set in place of the whole one from the strike on, and fall by
 * keys of the shot.
 * @param done called when it is there.
 */
export function useShatter(done: () => void): {
  working: Ref<boolean>;
  run: (whole: string, settings: ShatterSettings) => void;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const working = ref(false);
  let whole = '';

  const client = shatterClient((reply) => void take(reply));
  onBeforeUnmount(() => client.close());

  function run(id: string, settings: ShatterSettings): void {
    const { set, shot } = campaign;
    if (!set || !shot || working.value) return;
    working.value = true;
    whole = id;
    client.ask({
      ...{ set: plain(set), shot: plain(shot), products: new Map(plain([...campaign.products])) },
      ...{ whole, broken: freshId('product'), settings: plain(settings) },
    });
  }

  /** The product in pieces: one of an earlier strike that was taken back is used again. */
  async function bring(product: ProductDocument, label: string, gesture: string): Promise<string> {
    const used = new Set(campaign.set?.products.map((item) => item.product));
    const left = [...campaign.products].find(([id, known]) => known.name === product.name && !used.has(id));
    if (left) {
      documents.run('product', left[0], replaceProduct(label, product), gesture);
      return left[0];
    }
    const stored = await api<StoredDocument<'product'>>('POST', `/campaigns/${campaign.id}/products`, { product });
    campaign.addProduct(stored);
    return stored.id;
  }

  async function take(reply: ShatterReply): Promise<void> {
    if ('failed' in reply) {
      working.value = false;
      notices.refuse(reply.failed);
      return;
    }
    const { product, glb, thing, tracks, rests } = reply;
    await notices.guard(async () => {
      const { hash } = await uploadFile(new Blob([new Uint8Array(glb)]), () => undefined);
      const name = campaign.set?.products.find(({ id }) => id === whole)?.name ?? 'the product';
      const gesture = `shatter-${Date.now()}`;
      const label = `Shatter ${name}`;
      const id = await bring({ ...product, model: hash, source: hash }, label, gesture);
      documents.run('set', campaign.setId, addThings('products', [{ ...thing, product: id }], label), gesture);
      documents.run('shot', campaign.shotId, replaceTracks(label, tracks), gesture);
      const pieces = new Set(tracks.filter((t) => t.path.startsWith('own.')).map((t) => t.path.split('.')[2])).size;
      const still = rests < campaign.shot!.length ? ` and rest at frame ${rests + 1}` : '';
      notices.done(`${name} breaks: ${pieces} pieces fall${still}.`);
      done();
    });
    working.value = false;
  }
  return { working, run };
}
