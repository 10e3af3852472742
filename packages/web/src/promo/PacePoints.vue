<script setup lang="ts">
import { pacePoints, placedClips, speedAt, withHold, withPoint } from '@tender-orbit/core/promo';
import { newPace, PROMO_LIMITS, setPart, type Clip, type PacePoint } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { FieldRow, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';
import PaceGraph from './PaceGraph.vue';
import { usePromo } from './use-promo.ts';

/** A clip's speed by points: drawn, in numbers, and standing still from the playhead on. */
const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { promo, frame, run } = usePromo();
const chosen = ref(0);
const RAMPS = optionsOf<PacePoint['ramp']>({ smooth: 'smoothly', even: 'evenly', hold: 'holds, then jumps' });
/** Seconds that a hold lasts at first. */
const HOLD = 0.5;
const points = computed(() => pacePoints(clip));
const index = computed(() => Math.min(chosen.value, points.value.length - 1));
const point = computed(() => points.value[index.value]);
/** The playhead in frames of the clip, which may lie outside it. */
const at = computed(
  () => frame.value - (placedClips(promo.value!).find((p) => p.clip.id === clip.id)?.from ?? frame.value),
);
const within = computed(() => at.value >= 0 && at.value < clip.length);
const full = computed(() => points.value.length + 3 > PROMO_LIMITS.pacePoints);

function set(next: readonly PacePoint[], label = 'Change pace', gesture = ''): void {
  const pace = { ...(clip.pace ?? newPace()), points: [...next] };
  const ends = {
    from: speedAt({ length: clip.length, pace }, 0),
    to: speedAt({ length: clip.length, pace }, clip.length),
  };
  run(setPart(clip.id, label, 'pace', { ...pace, ...ends }), gesture);
}
function change(values: Partial<PacePoint>, gesture = ''): void {
  set(
    points.value.map((p, n) => (n === index.value ? { ...p, ...values } : p)),
    'Change pace',
    gesture,
  );
}
function add(): void {
  const next = withPoint(clip, { at: at.value, speed: speedAt(clip, at.value), ramp: 'smooth' });
  set(next, 'Add speed');
  chosen.value = next.findIndex((p) => p.at === at.value);
}
const hold = (): void =>
  set(withHold(clip, at.value, Math.round((HOLD * campaign.rate.num) / campaign.rate.den)), 'Hold the picture');
</script>

<template>
  <PaceGraph v-model="chosen" :clip="clip" :at="at" @change="(next, g) => set(next, 'Change pace', g)" />
  <NumberField
    label="Speed"
    unit="%"
    :value="point.speed * 100"
    :min="0"
    :max="10000"
    :step="5"
    :usual="100"
    @change="(v, g) => change({ speed: v / 100 }, g)"
  />
  <NumberField
    label="At frame"
    unit="f"
    :value="point.at + 1"
    :min="(points[index - 1]?.at ?? -PROMO_LIMITS.frames + 1) + 1"
    :max="(points[index + 1]?.at ?? PROMO_LIMITS.frames - 1) + 1"
    :step="1"
    @change="(v, g) => change({ at: v - 1 }, g)"
  />
  <FieldRow v-if="index < points.length - 1" label="To the next">
    <SelectField label="To the next speed" :options="RAMPS" :value="point.ramp" @change="(ramp) => change({ ramp })" />
  </FieldRow>
  <div class="row">
    <UiButton :disabled="!within || full" tip="A speed of its own at the playhead" @click="add"
      >Add at playhead</UiButton
    >
    <UiButton :disabled="!within || full" tip="Stands still for half a second from the playhead on" @click="hold">
      Hold here
    </UiButton>
  </div>
</template>
