<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core';
import { ref, watch } from 'vue';
import type { PoseMade } from '@tender-orbit/core/contract';
import { poseProduct, type FilePose, type ModelOrigin, type ProductDocument } from '@tender-orbit/core/document';
import { api } from '../api/index.ts';
import { useDesk, useNotices } from '../stores/index.ts';
import { FieldRow, NumberField, ProgressBar, SelectField } from '../ui/index.ts';

/** The moment of one of its file's animations that a product stands at. */
const { origin } = defineProps<{ product: ProductDocument; origin: ModelOrigin }>();
const desk = useDesk();
const notices = useNotices();
const busy = ref(false);

const AS_STORED = -1;
/** Reads the file anew in that pose; the product takes it as one step. */
async function take(pose: FilePose | null): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  await notices.guard(async () => {
    const made = await api<PoseMade>('POST', `/products/${desk.id}/pose`, { pose });
    desk.run(poseProduct(made.model, made.extent, made.pose));
  });
  busy.value = false;
}
/** The time while it is being dragged; the file is read once it rests. */
const seconds = ref(origin.pose?.seconds ?? 0);
watch(
  () => origin.pose?.seconds,
  (stored) => (seconds.value = stored ?? 0),
);
const takeAt = useDebounceFn(() => origin.pose && take({ ...origin.pose, seconds: seconds.value }), 350);
function scrub(at: number): void {
  seconds.value = at;
  void takeAt();
}
const choose = (animation: number): void => void take(animation === AS_STORED ? null : { animation, seconds: 0 });
</script>

<template>
  <h3>Pose</h3>
  <FieldRow label="Animation">
    <SelectField
      label="Animation of the file"
      :options="[
        { title: 'None: as stored', value: AS_STORED },
        ...origin.animations.map(({ name }, value) => ({ title: name, value })),
      ]"
      :value="origin.pose?.animation ?? AS_STORED"
      :disabled="busy"
      data-test="pose-animation"
      @change="choose"
    />
  </FieldRow>
  <NumberField
    v-if="origin.pose"
    label="At"
    unit="s"
    :value="seconds"
    :min="0"
    :max="origin.animations[origin.pose.animation]?.seconds ?? 0"
    :step="0.04"
    data-test="pose-seconds"
    @change="scrub"
  />
  <ProgressBar v-if="busy" :value="1" label="Reading the file in this pose" />
</template>
