import { shortened } from '@tender-orbit/core/text';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, toRaw } from 'vue';
import type {
  DocumentKind,
  ProductDocument,
  PromoDocument,
  ShotDocument,
  TakeComposite,
} from '@tender-orbit/core/document';
import type { TakeMade } from '@tender-orbit/core/contract';
import { chooseSet, freshName, inBoardOrder, newShot, othersShown } from '@tender-orbit/core/document';
import { lastPose } from '@tender-orbit/core/motion';
import { compensatedTakes, cutsWithin } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import {
  api,
  followWork,
  frameUrl,
  type CampaignBundle,
  type DeliverySummary,
  type SimulationSummary,
  type StoredDocument,
  type TakeSummary,
  type WorkStream,
} from '../api/index.ts';
import { useDocuments } from './documents.ts';

/** Pixels across of drawings that stand in for takes. */
const SKETCH_WIDTH = 640;

/** The open campaign: which documents it has, which shot is worked on, and the work that runs on the server for it. */
export const useCampaign = defineStore('campaign', () => {
  const documents = useDocuments();
  const id = ref('');
  const productIds = ref<string[]>([]);
  const setIds = ref<string[]>([]);
  const shotIds = ref<string[]>([]);
  const promoIds = ref<string[]>([]);
  const takes = shallowRef<TakeSummary[]>([]);
  const deliveries = shallowRef<DeliverySummary[]>([]);
  const simulations = shallowRef<SimulationSummary[]>([]);
  const shotId = ref('');
  let work: WorkStream | null = null;

  const campaign = computed(() => documents.get('campaign', id.value));
  const shot = computed(() => documents.get('shot', shotId.value));
  const setId = computed(() => shot.value?.set ?? setIds.value[0] ?? '');
  const set = computed(() => documents.get('set', setId.value));
  /** The cut in hand, where the person chose one. */
  const promoChosen = ref('');
  const promoId = computed(() =>
    promoIds.value.includes(promoChosen.value) ? promoChosen.value : (promoIds.value[0] ?? ''),
  );
  const promo = computed(() => documents.get('promo', promoId.value));
  const products = computed(() => {
    const map = new Map<string, ProductDocument>();
    for (const p of productIds.value) map.set(p, documents.get('product', p)!);
    return map;
  });
  /** In the storyboard's order. */
  const shots = computed(() => {
    const all = shotIds.value.map((s) => ({ id: s, document: documents.get('shot', s)! }));
    return campaign.value ? inBoardOrder(campaign.value, all) : all;
  });
  const rate = computed(() => campaign.value?.frameRate ?? { num: 24, den: 1 });
  const aspect = computed(() => (campaign.value ? campaign.value.width / campaign.value.height : 16 / 9));
  const camera = computed(() => set.value?.cameras.find((c) => c.id === shot.value?.camera));
  /** Takes that show the frames of their shots, not other times of them. */
  const wholeTakes = computed(() => takes.value.filter((t) => !t.times));
  const shotTakes = computed(() => wholeTakes.value.filter((t) => t.shot === shotId.value));
  /** The composite of the shot that a take is of, with or without layers; null when there is no such take. */
  function compositeOf(take: string): TakeComposite | null {
    const of = takes.value.find((t) => t.id === take);
    const shot = documents.get('shot', of?.shot ?? '');
    const view = shot && documents.get('set', shot.set)?.view;
    return shot && view ? { shot, view, ...(of?.times && { times: of.times }) } : null;
  }
  /** Composites that layers of a shot show, by the take. */
  const othersOf = (of: ShotDocument): Record<string, TakeComposite> => othersShown(of, compositeOf);
  const carried = computed(() =>
    compensatedTakes([...(promo.value ? [promo.value] : []), ...Object.values(cuts.value)]),
  );
  /** Composites of shots that have one, or are shown between the frames of a take, by the takes of theirs. */
  const composites = computed((): Record<string, TakeComposite> => {
    const found = takes.value.flatMap(({ id: take }): Array<[string, TakeComposite]> => {
      const composite = compositeOf(take);
      if (!composite || (composite.shot.layers.length === 0 && !carried.value.has(take))) return [];
      return [[take, { ...composite, others: othersOf(composite.shot) }]];
    });
    return Object.fromEntries(found);
  });
  const cutOf = (cut: string): PromoDocument | undefined =>
    promoIds.value.includes(cut) ? documents.get('promo', cut) : undefined;
  /** Other cuts that the promo shows, and those that these show in turn, by their ids. */
  const cuts = computed(() => (promo.value ? cutsWithin(promo.value, cutOf) : {}));
  /** Composites that layers of the promo and of those cuts show, by the take. */
  const shown = computed((): Record<string, TakeComposite> => {
    const all = promo.value ? [promo.value, ...Object.values(cuts.value)] : [];
    return Object.assign({}, ...all.map((cut) => othersShown(cut, compositeOf))) as Record<string, TakeComposite>;
  });
  const busy = computed(
    () =>
      takes.value.some((t) => t.state === 'rendering') ||
      simulations.value.some((s) => s.state === 'running') ||
      deliveries.value.some((d) => d.state === 'waiting' || d.state === 'working'),
  );

  async function open(campaignId: string): Promise<void> {
    if (id.value === campaignId && campaign.value) return;
    await close();
    const bundle = await api<CampaignBundle>('GET', `/campaigns/${campaignId}`);
    documents.load('campaign', bundle.campaign);
    const loadAll = <K extends DocumentKind>(kind: K, list: Array<StoredDocument<K>>): string[] =>
      list.map((stored) => {
        documents.load(kind, stored);
        return stored.id;
      });
    productIds.value = loadAll('product', bundle.products);
    setIds.value = loadAll('set', bundle.sets);
    shotIds.value = loadAll('shot', bundle.shots);
    promoIds.value = loadAll('promo', bundle.promos);
    takes.value = bundle.takes;
    deliveries.value = bundle.deliveries;
    simulations.value = bundle.simulations;
    shotId.value = inBoardOrder(documents.get('campaign', campaignId)!, bundle.shots)[0]?.id ?? '';
    await Promise.all([...documents.entries.values()].map((entry) => documents.resume(entry.kind, entry.id)));
    id.value = campaignId;
    work = followWork(campaignId, (news) => {
      takes.value = news.takes;
      deliveries.value = news.deliveries;
      simulations.value = news.simulations;
    });
  }

  async function close(): Promise<void> {
    work?.close();
    work = null;
    id.value = '';
    takes.value = [];
    deliveries.value = [];
    simulations.value = [];
    await documents.clear();
  }

  /** After something was started or stopped: its news need not be waited for. */
  async function lookAgain(): Promise<void> {
    if (!id.value) return;
    const [t, d, s] = await Promise.all([
      api<TakeSummary[]>('GET', `/campaigns/${id.value}/takes`).catch(() => takes.value),
      api<DeliverySummary[]>('GET', `/campaigns/${id.value}/deliveries`).catch(() => deliveries.value),
      api<SimulationSummary[]>('GET', `/campaigns/${id.value}/simulation-runs`).catch(() => simulations.value),
    ]);
    takes.value = t;
    deliveries.value = d;
    simulations.value = s;
  }

  function addProduct(stored: StoredDocument<'product'>): void {
    documents.load('product', stored);
    productIds.value = [...productIds.value, stored.id];
  }

  async function removeProduct(product: string): Promise<void> {
    await api('DELETE', `/documents/product/${product}`);
    productIds.value = productIds.value.filter((p) => p !== product);
    documents.drop('product', product);
  }

  /** Shots that nothing shows yet: no frame of a take of theirs is there, or on its way. */
  const unseen = computed(() =>
    shots.value.filter(({ id: own }) => !wholeTakes.value.some((t) => t.shot === own && t.state !== 'failed')),
  );
  /** Takes of in-betweens that no clip of any cut shows any more. */
  const unusedTimes = computed(() => {
    const shown = promoIds.value.flatMap((p) => documents.get('promo', p)?.clips ?? []);
    const used = new Set(shown.flatMap(({ take, pace }) => [take, pace?.rendered?.take]));
    return takes.value.filter((t) => t.times && !used.has(t.id));
  });
  /** Draws a shot as it stands, to stand in for a take. @returns the take of its drawings. */
  async function sketchShot(of: string): Promise<string> {
    await documents.settled();
    const width = Math.min(SKETCH_WIDTH, campaign.value?.width ?? SKETCH_WIDTH);
    const made = await api<TakeMade>('POST', '/takes', { shot: of, quality: 'sketch', width });
    await lookAgain();
    return made.id;
  }

  async function addShot(): Promise<void> {
    const from = shot.value;
    const length = from?.length ?? Math.round((4 * rate.value.num) / rate.value.den);
    await bringShot(newShot(`Shot ${shotIds.value.length + 1}`, setId.value, from?.camera ?? 'hero', length));
  }

  /** Another shot with all that moves in the one in hand. */
  async function duplicateShot(): Promise<void> {
    if (!shot.value) return;
    const taken = shots.value.map((s) => s.document.name);
    const name = freshName(taken, shot.value.name);
    await bringShot({ ...(JSON.parse(JSON.stringify(shot.value)) as ShotDocument), name });
  }

  /** A shot that begins as the one in hand ends. */
  async function continueShot(): Promise<void> {
    if (!shot.value || !set.value) return;
    const { camera, length, musicFrom } = shot.value;
    const tracks = lastPose(toRaw(set.value), toRaw(shot.value));
    const after = musicFrom === null ? null : musicFrom + framesToSeconds(length, rate.value);
    const made = newShot(`Shot ${shotIds.value.length + 1}`, setId.value, camera, length);
    await bringShot({ ...made, tracks, musicFrom: after });
  }

  async function bringShot(document: ShotDocument): Promise<void> {
    const stored = await api<StoredDocument<'shot'>>('POST', `/campaigns/${id.value}/shots`, document);
    documents.load('shot', stored);
    shotIds.value = [...shotIds.value, stored.id];
    shotId.value = stored.id;
  }

  /** Gives the shot in hand a copy of its set, so that what is changed there is changed in this shot alone. */
  async function ownSet(): Promise<void> {
    if (!set.value || !shot.value) return;
    const { name } = shot.value;
    const copy = { ...set.value, name: shortened(`${set.value.name}, ${name}`, 120) };
    const stored = await api<StoredDocument<'set'>>('POST', `/campaigns/${id.value}/sets`, copy);
    documents.load('set', stored);
    setIds.value = [...setIds.value, stored.id];
    documents.run('shot', shotId.value, chooseSet(stored.id));
  }

  /** Deletes a shot; its takes stay, so that a promo that uses them still plays. */
  async function removeShot(shot: string): Promise<void> {
    await api('DELETE', `/documents/shot/${shot}`);
    shotIds.value = shotIds.value.filter((s) => s !== shot);
    if (shotId.value === shot) shotId.value = shots.value[0]?.id ?? '';
    documents.drop('shot', shot);
  }

  /** Another cut. @returns its id. */
  async function addPromo(document: PromoDocument): Promise<string> {
    const stored = await api<StoredDocument<'promo'>>('POST', `/campaigns/${id.value}/promos`, document);
    documents.load('promo', stored);
    promoIds.value = [...promoIds.value, stored.id];
    return stored.id;
  }

  /** Deletes a cut; what was delivered of it stays. */
  async function removePromo(promoOf: string): Promise<void> {
    await api('DELETE', `/documents/promo/${promoOf}`);
    promoIds.value = promoIds.value.filter((p) => p !== promoOf);
    documents.drop('promo', promoOf);
  }

  /** Address of a picture that stands for a shot: the middle finished frame of its newest take. */
  function coverOf(shot: string): string | null {
    const take = takes.value.find((t) => t.shot === shot && t.done.length > 0);
    return take ? frameUrl(take.id, take.done[Math.floor(take.done.length / 2)]) : null;
  }

  return {
    ...{
      id,
      campaign,
      shotId,
      shot,
      setId,
      setIds,
      set,
      promoId,
      promo,
      promoIds,
      promoChosen,
      products,
      productIds,
      shots,
      rate,
      aspect,
      camera,
      takes,
      wholeTakes,
      unseen,
      unusedTimes,
      shotTakes,
      composites,
      shown,
      cuts,
      cutOf,
      othersOf,
      deliveries,
      simulations,
      busy,
    },
    ...{
      open,
      close,
      lookAgain,
      addProduct,
      removeProduct,
      addShot,
      sketchShot,
      duplicateShot,
      continueShot,
      removeShot,
      addPromo,
      removePromo,
      ownSet,
      coverOf,
    },
  };
});
