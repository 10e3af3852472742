import {
  canSoften,
  softenEases,
  stretchSpan,
  type Command,
  type SetProduct,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { modelKey } from '@tender-orbit/core/product';
import { compile, screenSpeeds, strobes, type ScreenSpeed } from '@tender-orbit/core/scene';
import { watchDebounced } from '@vueuse/core';
import { computed, ref, shallowRef, toRaw, type ComputedRef, type Ref } from 'vue';
import { useCampaign, useDocuments, useStage } from '../../stores/index.ts';
import type { MenuLines } from '../../ui/index.ts';
import { modelOf } from '../../viewer/models.ts';

/** Whether the graph is open. */
const open = ref(false);
const speeds = shallowRef<readonly ScreenSpeed[]>([]);
/** Milliseconds after the last edit before it is worked out again. */
const QUIET = 250;
/** Widest shutter, degrees: the whole frame. */
const WHOLE = 360;

/** Frames in which a thing strobes: `to` is not among them; `worst` times its features. */
export interface Strobing {
  from: number;
  to: number;
  worst: number;
  at: number;
}

/** The chosen product; without one the first that is seen. */
function useSubject(): ComputedRef<SetProduct | undefined> {
  const campaign = useCampaign();
  const stage = useStage();
  return computed(() => {
    const all = campaign.set?.products ?? [];
    return all.find((p) => p.id === stage.selected) ?? all.find((p) => p.visible);
  });
}

/** Works the speeds out again a little after each edit, for as long as what calls this is there. */
export function useSpeedWatch(): void {
  const campaign = useCampaign();
  const subject = useSubject();
  const model = () => {
    const product = campaign.products.get(subject.value?.product ?? '');
    return product && modelOf(modelKey(product));
  };
  watchDebounced(
    [() => campaign.set, () => campaign.shot, subject, model, () => campaign.aspect],
    () => {
      const { set, shot, products, aspect } = campaign;
      const there = set?.cameras.some((c) => c.id === shot?.camera);
      if (!set || !shot || !subject.value || !there) {
        speeds.value = [];
        return;
      }
      const meshes = (key: string) => modelOf(key)?.meshes;
      speeds.value = screenSpeeds(compile(toRaw(set), toRaw(shot)), subject.value.id, { products, meshes, aspect });
    },
    { debounce: QUIET, immediate: true },
  );
}

/** How fast the product in hand goes over the picture, where that strobes, and what can be done about it. */
export function useScreenSpeed(): {
  open: Ref<boolean>;
  name: ComputedRef<string>;
  speeds: Ref<readonly ScreenSpeed[]>;
  strobing: ComputedRef<Strobing[]>;
  cures: ComputedRef<MenuLines>;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const stage = useStage();
  const subject = useSubject();
  const strobing = computed(() => {
    const spans: Strobing[] = [];
    speeds.value.forEach((speed, frame) => {
      if (!strobes(speed)) return;
      const times = speed.gap / speed.feature;
      const last = spans.at(-1);
      if (last?.to !== frame) spans.push({ from: frame, to: frame + 1, worst: times, at: frame });
      else Object.assign(last, { to: frame + 1, ...(times > last.worst && { worst: times, at: frame }) });
    });
    return spans;
  });
  const worst = computed(() =>
    strobing.value.reduce<Strobing | null>((a, b) => (a && a.worst > b.worst ? a : b), null),
  );

  function onShot(command: Command<ShotDocument>): void {
    documents.run('shot', campaign.shotId, command);
  }
  const cures = computed((): MenuLines => {
    const spot = worst.value;
    const { shot, camera } = campaign;
    if (!spot || !shot || !camera || !subject.value) return [];
    const { speed, feature } = speeds.value[spot.at];
    // Just so long open that no jump is larger than the feature; rounded up to what is set on cameras.
    const shutter = Math.min(WHOLE, Math.ceil((WHOLE * (1 - feature / speed)) / 5) * 5);
    const times = Number((spot.worst * 1.05).toFixed(2));
    const movers = [subject.value.id, camera.id];
    return [
      {
        title: `Longer shutter: ${shutter} deg`,
        // As a key where the shutter is keyed.
        run: () => stage.setNumber(camera.id, 'shutter', shutter, 'Longer shutter'),
      },
      {
        title: `Slower part: ${times} times as long`,
        run: () => onShot(stretchSpan(spot.from, spot.to, times)),
      },
      ...(canSoften(shot, movers, spot.at)
        ? [{ title: 'Softer ease', run: () => onShot(softenEases(movers, spot.at)) }]
        : []),
    ];
  });
  return { open, name: computed(() => subject.value?.name ?? ''), speeds, strobing, cures };
}
