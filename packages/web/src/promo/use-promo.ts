import { computed, ref, toRaw, watch, type ComputedRef, type Ref } from 'vue';
import {
  addClip,
  addMarker,
  addSounds,
  addTitle,
  bringCaptions,
  clearMixer,
  changeClip,
  changeClips,
  CLIP_ATTRIBUTES,
  copyClipAttributes,
  copyTitle,
  changeMusic,
  changeOverlay,
  changeSound,
  changeSource,
  changeTitle,
  deleteClip,
  deleteMarker,
  deleteOverlay,
  deleteSound,
  deleteTitle,
  groupItems,
  groupOf,
  ungroupItems,
  duplicateClip,
  freshName,
  namesOf,
  newFileSound,
  newKitSound,
  newOwnSound,
  newTitle,
  removeMusic,
  type Clip,
  type ClipAttribute,
  type Command,
  type MusicUse,
  type PromoDocument,
  type PromoOverlay,
  type PromoSound,
  type Title,
} from '@tender-orbit/core/document';
import type { KitKind } from '@tender-orbit/core/audio';
import {
  clipOfPart,
  insertClip,
  overwriteClip,
  promoBeats,
  hasSound,
  keepLooping,
  promoLength,
  readCaptions,
  soundsForCut,
  titlesOf,
  type Part,
  type PartFit,
} from '@tender-orbit/core/promo';
import { shortened, textOf } from '@tender-orbit/core/text';
import { framesToSeconds, type BeatGrid } from '@tender-orbit/core/time';
import { api, uploadFile, type MusicMade, type TakeSummary } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices, useRack } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';

export type PromoChoice =
  | { kind: 'clip' | 'title' | 'sound' | 'overlay' | 'layer' | 'marker'; id: string }
  | { kind: 'music' | 'mixer' }
  | null;

const chosen = ref<PromoChoice>(null);
const frame = ref(0);
/** Ids of what is chosen besides what is in hand. */
const alsoChosen = ref<ReadonlySet<string>>(new Set());
watch(chosen, () => (alsoChosen.value = new Set()), { flush: 'sync' });
/** Frames that are played round and round, `to` not among them; null: all. */
const range = ref<{ from: number; to: number } | null>(null);
/** The clip whose attributes are pasted. */
const copied = ref('');

/** What a clip can show. */
export interface ClipSource {
  name: string;
  length: number;
  /** Of footage: the picture that stands for it. */
  poster?: string;
}

/** A take or a cut that is put into the cut in hand. */
export type Source = Pick<TakeSummary, 'id' | 'name' | 'length'>;

export interface PromoWork {
  promo: ComputedRef<PromoDocument | undefined>;
  /** At least one frame, so that an empty promo has a time line. */
  length: ComputedRef<number>;
  grid: ComputedRef<BeatGrid | null>;
  chosen: Ref<PromoChoice>;
  frame: Ref<number>;
  alsoChosen: Ref<ReadonlySet<string>>;
  /** The clips that are chosen, the one in hand first. */
  chosenClips: ComputedRef<string[]>;
  /** All that is chosen and lies on the time line, what is in hand first. */
  chosenItems: ComputedRef<string[]>;
  /** Takes something in hand, with all that it is grouped with. */
  choose: (choice: PromoChoice) => void;
  /** Ties what is chosen together, or what is tied loose. */
  groupChosen: () => void;
  ungroupChosen: () => void;
  range: Ref<{ from: number; to: number } | null>;
  /** Bounds what is played, by one end or both; what would hold no two frames is all of it. */
  bound: (ends: { from?: number; to?: number } | null) => void;
  run: (command: Command<PromoDocument>, gesture?: string) => void;
  editClip: (id: string, label: string, values: Partial<Clip>, gesture?: string) => void;
  editTitle: (id: string, label: string, values: Partial<Title>, gesture?: string) => void;
  editMusic: (label: string, values: Partial<MusicUse>, gesture?: string) => void;
  editOverlay: (id: string, label: string, values: Partial<PromoOverlay>, gesture?: string) => void;
  /** What a clip shows: a take, a piece of footage, or another cut. */
  sourceOf: (id: string) => ClipSource | undefined;
  editSound: (id: string, label: string, values: Partial<Omit<PromoSound, 'id' | 'source'>>, gesture?: string) => void;
  /** Numbers of what a sound is made of. */
  editSource: (id: string, label: string, values: Record<string, number>, gesture?: string) => void;
  addTake: (take: Source, part?: Part) => void;
  /** Puts a take or a cut at the playhead, before what is there or in its place; where a range is set, at its beginning and for as long as it is. */
  insertTake: (take: Source, how?: 'insert' | 'overwrite', part?: Part, fit?: PartFit) => void;
  /** A sound of the kit, its accent at the playhead. */
  addKitSound: (kind: KitKind) => void;
  /** A sound file from the playhead on. */
  addSoundFile: (file: File | undefined) => Promise<void>;
  /** Sounds that the cut asks for. */
  soundTheCut: () => void;
  addTitle: () => void;
  /** Captions of a WebVTT or SubRip file as titles. */
  addCaptions: (file: File) => Promise<void>;
  addMarker: () => void;
  duplicateChosen: () => void;
  /** Shows chosen clips no more, or again. */
  toggleChosen: () => void;
  copyAttributes: () => void;
  /** Whether what a clip or an overlay shows has a sound. */
  hasSound: (id: string) => boolean;
  canPaste: ComputedRef<boolean>;
  pasteAttributes: (attributes?: readonly ClipAttribute[]) => void;
  removeChosen: () => void;
}

/** The open promo and its edits; what is chosen in it is the same wherever it is asked for. */
export function usePromo(): PromoWork {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const promo = computed(() => campaign.promo);
  const run: PromoWork['run'] = (command, gesture = '') => {
    // Looping music is as long as the cut after whatever is done to that.
    const looped = (draft: PromoDocument): void => {
      command.run(draft);
      if (draft.music) keepLooping(draft.music, framesToSeconds(promoLength(draft), campaign.rate));
    };
    documents.run('promo', campaign.promoId, { ...command, run: looped }, gesture);
  };

  const chosenItems = computed(() => {
    const choice = chosen.value;
    if (!choice || !('id' in choice) || !promo.value) return [];
    const { clips, titles, overlays, sounds, markers, layers } = promo.value;
    const there = new Set([clips, titles, overlays, sounds, markers, layers].flat().map(({ id }) => id));
    return [...new Set([choice.id, ...alsoChosen.value])].filter((id) => there.has(id));
  });
  const chosenClips = computed(() => {
    const there = new Set(promo.value?.clips.map(({ id }) => id));
    return chosenItems.value.filter((id) => there.has(id));
  });
  /** Takes something of a row away. */
  function deletion(id: string): Command<PromoDocument> {
    const now = promo.value!;
    const has = (list: ReadonlyArray<{ id: string }>): boolean => list.some((item) => item.id === id);
    if (has(now.clips)) return deleteClip(id);
    if (has(now.titles)) return deleteTitle(id);
    if (has(now.sounds)) return deleteSound(id);
    return has(now.overlays) ? deleteOverlay(id) : deleteMarker(id);
  }
  const canPaste = computed(
    () =>
      promo.value?.clips.some(({ id }) => id === copied.value) === true &&
      chosenClips.value.some((id) => id !== copied.value),
  );

  const heardOf = (id: string): boolean => !!promo.value && hasSound(promo.value, id, campaign.cutOf);
  /** What is shown anew is heard, where it has a sound. */
  const ownSound = (id: string): Pick<Clip, 'sound'> => (heardOf(id) ? { sound: newOwnSound() } : {});

  return {
    ...{ alsoChosen, chosenClips, chosenItems, range, canPaste },
    choose: (choice) => {
      chosen.value = choice;
      const group = promo.value && choice && 'id' in choice ? groupOf(promo.value, choice.id) : undefined;
      if (group) alsoChosen.value = new Set(group.members);
    },
    groupChosen: () => run(groupItems(freshId('group'), chosenItems.value)),
    ungroupChosen: () => run(ungroupItems(chosenItems.value)),
    bound: (ends) => {
      const length = Math.max(1, promo.value ? promoLength(promo.value) : 1);
      const from = Math.max(0, Math.round(ends?.from ?? range.value?.from ?? 0));
      const to = Math.min(length, Math.round(ends?.to ?? range.value?.to ?? length));
      const whole = ends === null || to - from < 2 || (from <= 0 && to >= length);
      range.value = whole ? null : { from, to };
    },
    addMarker: () => {
      if (!promo.value) return;
      const name = freshName(namesOf(promo.value.markers), 'Marker');
      const marker = { id: freshId('marker'), name, at: frame.value, length: 0 };
      run(addMarker(marker));
      chosen.value = { kind: 'marker', id: marker.id };
    },
    duplicateChosen: () => {
      const choice = chosen.value;
      if (choice?.kind === 'clip') {
        const id = freshId('clip');
        run(duplicateClip(choice.id, id));
        chosen.value = { kind: 'clip', id };
      } else if (choice?.kind === 'title') {
        const title = promo.value?.titles.find(({ id }) => id === choice.id);
        if (!title) return;
        const { order: _, ...values } = JSON.parse(JSON.stringify(title)) as Title;
        const copy = { ...values, id: freshId('title'), start: title.start + title.length };
        run(copyTitle(choice.id, copy));
        chosen.value = { kind: 'title', id: copy.id };
      }
    },
    toggleChosen: () => {
      const ids = chosenClips.value;
      const off = promo.value?.clips.find(({ id }) => id === ids[0])?.off ?? false;
      run(
        changeClips(
          off ? 'Show clip' : 'Hide clip',
          ids.map((id) => ({ id, values: { off: off ? undefined : true } })),
        ),
      );
    },
    copyAttributes: () => (copied.value = chosen.value?.kind === 'clip' ? chosen.value.id : ''),
    pasteAttributes: (attributes = CLIP_ATTRIBUTES) => {
      if (canPaste.value) run(copyClipAttributes(copied.value, chosenClips.value, attributes));
    },
    promo,
    length: computed(() => Math.max(1, promo.value ? promoLength(promo.value) : 1)),
    grid: computed(() => (promo.value ? promoBeats(promo.value) : null)),
    chosen,
    frame,
    run,
    editClip: (id, label, values, gesture) => run(changeClip(id, label, values), gesture),
    editTitle: (id, label, values, gesture) => run(changeTitle(id, label, values), gesture),
    editMusic: (label, values, gesture) => run(changeMusic(label, values), gesture),
    editOverlay: (id, label, values, gesture) => run(changeOverlay(id, label, values), gesture),
    sourceOf: (id) => {
      const take = campaign.takes.find((t) => t.id === id);
      if (take) return { name: take.name, length: take.length };
      const cut = campaign.cuts[id];
      if (cut) return { name: cut.name, length: promoLength(cut) };
      const footage = promo.value?.footage.find((f) => f.id === id);
      return footage && { name: footage.name, length: footage.frames, poster: `/api/assets/${footage.poster}` };
    },
    hasSound: heardOf,
    editSound: (id, label, values, gesture) => run(changeSound(id, label, values), gesture),
    editSource: (id, label, values, gesture) => run(changeSource(id, label, values), gesture),
    addKitSound: (kind) => {
      const sound = newKitSound(freshId('sound'), kind, frame.value);
      run(addSounds([sound], `Add ${sound.name.toLowerCase()}`));
      chosen.value = { kind: 'sound', id: sound.id };
    },
    addSoundFile: async (file) => {
      if (!file) return;
      await notices.guard(async () => {
        const { hash } = await uploadFile(file, () => undefined);
        const made = await api<MusicMade>('POST', `/campaigns/${campaign.id}/music`, {
          asset: hash,
          fileName: file.name,
        });
        const sound = newFileSound(freshId('sound'), { ...made, name: shortened(made.name, 120) }, frame.value);
        run(addSounds([sound], `Add ${sound.name}`));
        chosen.value = { kind: 'sound', id: sound.id };
      });
    },
    soundTheCut: () => {
      if (!promo.value) return;
      const sounds = soundsForCut(promo.value, campaign.rate, () => freshId('sound'));
      if (sounds.length === 0)
        notices.refuse(
          'The cut asks for no sound that is not there: it has no moving transition, flash, drop or title left.',
        );
      else run(addSounds(sounds, 'Sound the cut'));
    },
    addTake: (take, part = { from: 0, to: take.length }) => {
      const clip: Clip = {
        id: freshId('clip'),
        take: take.id,
        ...clipOfPart(part, null, 'begin'),
        ...ownSound(take.id),
      };
      run(addClip(clip, take.name));
      chosen.value = { kind: 'clip', id: clip.id };
    },
    insertTake: (take, how = 'insert', part = { from: 0, to: take.length }, fit = 'begin') => {
      if (!promo.value) return;
      const span = range.value;
      const clip: Clip = { id: freshId('clip'), take: take.id, ...clipOfPart(part, span, fit), ...ownSound(take.id) };
      const gesture = `insert-${Date.now()}`;
      const at = span?.from ?? frame.value;
      const put = how === 'insert' ? insertClip : overwriteClip;
      for (const step of put(toRaw(promo.value), at, clip, take.name, freshId('clip'))) run(step, gesture);
      chosen.value = { kind: 'clip', id: clip.id };
    },
    addTitle: () => {
      if (!promo.value) return;
      const left = Math.max(1, promoLength(promo.value) - frame.value);
      const title = newTitle(freshId('title'), {
        start: frame.value,
        length: promoLength(promo.value) > 0 ? Math.min(48, left) : 48,
        size: Math.round(promo.value.height / 9),
      });
      run(addTitle(title));
      chosen.value = { kind: 'title', id: title.id };
    },
    addCaptions: async (file) => {
      await notices.guard(async () => {
        const captions = readCaptions(textOf(new Uint8Array(await file.arrayBuffer())), file.name);
        if (!promo.value) return;
        const titles = titlesOf(captions, promo.value, campaign.rate, () => freshId('title'));
        run(bringCaptions(titles));
        chosen.value = { kind: 'title', id: titles[0].id };
      });
    },
    removeChosen: () => {
      const choice = chosen.value;
      if (!choice) return;
      const items = chosenItems.value;
      chosen.value = null;
      const gesture = `delete-${Date.now()}`;
      if (choice.kind === 'mixer') run(clearMixer());
      else if (choice.kind === 'music') run(removeMusic());
      else
        for (const id of items) {
          if (promo.value?.layers.some((l) => l.id === id)) useRack().remove(id, gesture);
          else run(deletion(id), gesture);
        }
    },
  };
}
