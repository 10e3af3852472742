import { addThings, changeLayer, replaceTracks, type Layer } from '@tender-orbit/core/document';
import { tracedCard } from '@tender-orbit/core/composite';
import { compile, evaluate, frameSpace, type FrameSpace } from '@tender-orbit/core/scene';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { modelOf } from '../viewer/models.ts';

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Makes a layer that stands in the set a card of the set itself, which moves as the layer did; the layer is hidden. */
export async function traceInTheSet(layer: Layer): Promise<void> {
  const campaign = useCampaign();
  const notices = useNotices();
  const documents = useDocuments();
  const { set, shot, products, aspect } = campaign;
  if (!set || !shot) return;
  if (layer.locked) {
    notices.refuse(`"${layer.name}" is locked: unlock it to trace it in the set.`);
    return;
  }
  const program = compile(set, shot);
  const context = { products, meshes: (model: string) => modelOf(model)?.meshes, aspect };
  const spaceAt = (frame: number): FrameSpace => frameSpace(program, frame, evaluate(program, frame, context));
  if (layer.thing !== '' && !spaceAt(layer.start).things[layer.thing]) {
    notices.refuse('The model that it goes around is still being read: try again in a moment.');
    return;
  }
  await notices.guard(async () => {
    const own = layer.kind === 'still' && layer.asset !== '' ? await aspectOf(layer.asset) : 1;
    const id = freshId('surface');
    const { surface, tracks } = tracedCard(plain(shot), plain(layer), own, id, spaceAt);
    const [label, gesture] = [`Trace ${layer.name} in the set`, `trace-${Date.now()}`];
    documents.run('set', campaign.setId, addThings('surfaces', [surface], label), gesture);
    documents.run('shot', campaign.shotId, replaceTracks(label, tracks), gesture);
    documents.run('shot', campaign.shotId, changeLayer(layer.id, label, { visible: false }), gesture);
    const masked =
      layer.mask !== 'none' ||
      layer.matte !== 'none' ||
      shot.layers.some((l) => l.kind === 'mask' && l.group === layer.id);
    notices.done(
      `"${layer.name}" stands in the set as a card now${masked ? ', whole: cards have no masks' : ''}. Bring the take up to date to see it traced.`,
    );
  });
}

/** Width over height of a stored picture. */
async function aspectOf(asset: string): Promise<number> {
  const picture = new Image();
  picture.src = `/api/assets/${asset}`;
  await picture.decode();
  return picture.naturalWidth / picture.naturalHeight;
}
