<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { PartFit } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { frameUrl, type TakeSummary } from '../api/index.ts';
import { useCampaign } from '../stores/index.ts';
import { usePromo } from './use-promo.ts';
import { DialogCard, FieldRow, NumberField, RangeField, SelectField, UiButton, optionsOf } from '../ui/index.ts';

/** A part of a take that is put into the cut: its first and last frame, and where a range is set, what of it that shows. */
const { take } = defineProps<{ take: TakeSummary | null }>();
const emit = defineEmits<{ close: [] }>();
const campaign = useCampaign();
const { range, addTake, insertTake } = usePromo();

const FITS = optionsOf<PartFit>({
  begin: 'from its first frame on',
  end: 'up to its last frame',
  fit: 'all of it, slower or faster',
});
const from = ref(0);
/** The last frame. */
const last = ref(0);
const fit = ref<PartFit>('begin');
/** The frame that is looked at: the end that was moved last. */
const seen = ref(0);
watch(
  () => take?.id,
  () => {
    from.value = seen.value = 0;
    last.value = (take?.length ?? 1) - 1;
    fit.value = 'begin';
  },
  { immediate: true },
);
function choose(first: number, end: number): void {
  const most = (take?.length ?? 1) - 1;
  const low = Math.min(most, Math.max(0, Math.round(first)));
  const high = Math.min(most, Math.max(low, Math.round(end)));
  seen.value = low !== from.value ? low : high;
  [from.value, last.value] = [low, high];
}
const part = computed(() => ({ from: from.value, to: last.value + 1 }));
const frames = computed(() => last.value + 1 - from.value);
const seconds = (count: number): string => framesToSeconds(count, campaign.rate).toFixed(2);
const span = computed(() => (range.value ? range.value.to - range.value.from : null));

function put(how: 'add' | 'insert' | 'overwrite'): void {
  if (!take) return;
  if (how === 'add') addTake(take, part.value);
  else insertTake(take, how, part.value, fit.value);
  emit('close');
}
</script>

<template>
  <DialogCard
    :open="take !== null"
    :title="`A part of ${take?.name ?? ''}`"
    :width="560"
    data-test="take-part"
    @close="emit('close')"
  >
    <template v-if="take">
      <img class="seen" :src="frameUrl(take.id, seen)" :alt="`Frame ${seen + 1}`" />
      <RangeField label="Part of the take" :from="from" :to="last" :min="0" :max="take.length - 1" @change="choose" />
      <div class="ends">
        <NumberField
          label="First frame"
          unit="f"
          :value="from + 1"
          :min="1"
          :max="last + 1"
          :step="1"
          @change="(v) => choose(v - 1, last)"
        />
        <NumberField
          label="Last frame"
          unit="f"
          :value="last + 1"
          :min="from + 1"
          :max="take.length"
          :step="1"
          @change="(v) => choose(from, v - 1)"
        />
      </div>
      <p class="dim note">
        {{ frames }} {{ frames === 1 ? 'frame' : 'frames' }}, {{ seconds(frames) }} s{{
          span ? `; the range of the time line has ${span}, ${seconds(span)} s` : ''
        }}.
      </p>
      <FieldRow v-if="span && span !== frames" label="The range shows">
        <SelectField label="The range shows" :options="FITS" :value="fit" @change="(to) => (fit = to)" />
      </FieldRow>
    </template>
    <template #end>
      <UiButton data-test="part-add" @click="put('add')">Add at the end</UiButton>
      <UiButton data-test="part-overwrite" @click="put('overwrite')">{{
        range ? 'Overwrite the range' : 'Overwrite from the playhead'
      }}</UiButton>
      <UiButton tone="primary" data-test="part-insert" @click="put('insert')">{{
        range ? 'Insert for the range' : 'Insert at the playhead'
      }}</UiButton>
    </template>
  </DialogCard>
</template>

<style scoped>
.seen {
  width: 100%;
  aspect-ratio: 16 / 9;
  border-radius: 6px;
  background: #000;
  object-fit: contain;
}
.ends {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.note {
  margin: 0;
}
</style>
