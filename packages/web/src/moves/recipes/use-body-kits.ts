import { onBeforeUnmount, ref, type Ref } from 'vue';
import { addThings, replaceTracks, type ProductDocument } from '@tender-orbit/core/document';
import { placeBodyKit, subjectOf, type BodyKit } from '@tender-orbit/core/staging';
import { api, type StoredDocument } from '../../api/index.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import { bodiesClient } from '../bodies-client.ts';

/** Frames after the playhead at which bodies are at rest at the earliest. */
const LEAST_FRAMES = 36;

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/**
 * Puts bodies of their own round the product and keys how they come in, so that they rest at a beat after the playhead.
 * @param nearestBeat the frame at which they are to rest, when beats are kept to.
 */
export function useBodyKits(nearestBeat: (frame: number) => number): {
  /** The kit that is being worked out. */
  busy: Ref<BodyKit | ''>;
  place: (kit: BodyKit) => Promise<void>;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const busy = ref<BodyKit | ''>('');
  let gesture = '';

  const client = bodiesClient((reply) => {
    const kit = busy.value;
    busy.value = '';
    if ('failed' in reply) {
      notices.refuse(`How they come in could not be worked out: take "${kit}" back and try again.`);
      return;
    }
    documents.run('shot', campaign.shotId, replaceTracks(`Add ${kit}`, reply.tracks), gesture);
    notices.done(`They come in from frame ${Math.max(0, reply.start) + 1} on and rest at frame ${reply.rests + 1}.`);
  });
  onBeforeUnmount(() => client.close());

  /** The product of a kit: one that was made before and is unchanged is used again. */
  async function bring(product: ProductDocument): Promise<string> {
    const same = [...campaign.products].find(
      ([, known]) => known.name === product.name && JSON.stringify(known.builder) === JSON.stringify(product.builder),
    );
    if (same) return same[0];
    const stored = await api<StoredDocument<'product'>>('POST', `/campaigns/${campaign.id}/products`, { product });
    campaign.addProduct(stored);
    return stored.id;
  }

  async function place(kit: BodyKit): Promise<void> {
    const { set, shot, setId } = campaign;
    if (!set || !shot || busy.value) return;
    busy.value = kit;
    const done = await notices.guard(async () => {
      const subject = subjectOf(set, campaign.products, campaign.camera);
      const seed = set.products.length + 1;
      const { product, things, fall } = placeBodyKit(kit, subject, seed, () => freshId('product'));
      const id = await bring(product);
      gesture = `bodies-${Date.now()}`;
      const falling = things.map((thing) => ({ ...thing, product: id }));
      documents.run('set', setId, addThings('products', falling, `Add ${kit}`), gesture);
      const restAt = Math.min(shot.length - 1, nearestBeat(playhead.frame + LEAST_FRAMES));
      client.ask({
        ...{ set: plain(campaign.set!), shot: plain(shot), products: new Map(plain([...campaign.products])) },
        ...{ falling: falling.map((thing) => thing.id), hinge: null, restAt },
        settings: { ...fall, rate: { ...campaign.rate } },
      });
    });
    if (!done) busy.value = '';
  }
  return { busy, place };
}
