<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { MASK_SIDES, type EmitterMask } from '@tender-orbit/core/document';
import { emitterMask } from '@tender-orbit/core/simulate';
import { ref, watchEffect } from 'vue';
import { pixelsOfFile } from '../../products/art-files.ts';
import { useNotices } from '../../stores/index.ts';
import { FieldRow, FilePick, IconButton, SelectField, UiButton } from '../../ui/index.ts';

/** The picture that an emitter gives off through: a logo, a pattern. */
const { mask } = defineProps<{ mask: EmitterMask | null }>();
const emit = defineEmits<{ change: [mask: EmitterMask | null] }>();
const notices = useNotices();
const pick = ref<InstanceType<typeof FilePick>>();
const canvas = ref<HTMLCanvasElement>();
/** Pixels of a picture's longer side that are looked at: several for each of the mask's. */
const EDGE = 384;
const SIDES: Record<EmitterMask['from'], string> = {
  front: 'From the front',
  side: 'From the side',
  above: 'From above',
};
const sides = MASK_SIDES.map((value) => ({ value, title: SIDES[value] }));

async function take([file]: File[]): Promise<void> {
  await notices.guard(async () => emit('change', emitterMask(await pixelsOfFile(file, EDGE), mask?.from ?? 'above')));
}

watchEffect(() => {
  const context = mask && canvas.value?.getContext('2d');
  if (!context) return;
  const picture = context.createImageData(mask.width, mask.height);
  for (let i = 0; i < mask.values.length; i++)
    picture.data.fill(Number.parseInt(mask.values[i], 16) * 17, 4 * i, 4 * i + 3).fill(255, 4 * i + 3, 4 * i + 4);
  context.putImageData(picture, 0, 0);
});
</script>

<template>
  <FieldRow label="Mask">
    <div class="row">
      <canvas v-if="mask" ref="canvas" :width="mask.width" :height="mask.height" role="img" aria-label="The mask" />
      <UiButton tip="It gives off where the picture is bright" @click="pick?.open()">
        {{ mask ? 'Other...' : 'Picture...' }}
      </UiButton>
      <IconButton
        v-if="mask"
        small
        :icon="mdiTrashCanOutline"
        label="Give off without the mask"
        @click="emit('change', null)"
      />
      <FilePick ref="pick" accept="image/*" label="Picture of the mask" data-test="mask-file" @pick="take" />
    </div>
  </FieldRow>
  <FieldRow v-if="mask" label="Projected">
    <SelectField
      label="Side of the mask"
      :options="sides"
      :value="mask.from"
      @change="(from) => emit('change', { ...mask, from })"
    />
  </FieldRow>
</template>

<style scoped>
.row {
  gap: 4px;
}
canvas {
  width: 36px;
  max-height: 28px;
  object-fit: contain;
  border-radius: 4px;
}
</style>
