<script setup lang="ts">
import { finishSurface, paintSurface, setProperties } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { linearToHex, makeFinish, type Finish } from '@tender-orbit/core/finish';
import { useCampaign, useStage } from '../../stores/index.ts';
import FinishPicker from './FinishPicker.vue';
import TryOn from './TryOn.vue';
import { ColourField, UiButton } from '../../ui/index.ts';

const { id } = defineProps<{ id: string }>();
const campaign = useCampaign();
const stage = useStage();
const surface = computed(() => campaign.set?.surfaces.find((s) => s.id === id));
const picking = ref(false);
const trying = ref(false);

function paint(hex: string, gesture: string): void {
  stage.run(paintSurface(id, hex, surface.value!.name), gesture);
}
function useFinish(finish: Finish | null): void {
  stage.run(finishSurface(id, finish, surface.value!.name));
}
/** A wall whose colour runs from one at the top to another at the bottom. */
function gradient(): void {
  const [colour] = [surface.value!.colour];
  useFinish(
    makeFinish('Gradient', {
      roughness: 0.9,
      textures: {
        baseColor: {
          ...{
            image: 0,
            offset: [0, 0],
            rotation: Math.PI / 2,
            scale: [1, 1],
            strength: 1,
            wrap: ['mirror', 'mirror'],
          },
          picture: {
            ...{ asset: '', look: null, emboss: false },
            pattern: {
              kind: 'stripes',
              seed: 1,
              count: 1,
              amount: 0.5,
              softness: 1,
              colours: [colour, '#2B2430', '#000000'],
              size: 512,
            },
          },
        },
      },
    }),
  );
}
function catchShadows(): void {
  if (surface.value?.kind !== 'sweep') return;
  stage.run(setProperties(id, { catcher: !surface.value.catcher }, `Shadow catcher on ${surface.value.name}`));
}
</script>

<template>
  <template v-if="surface">
    <ColourField
      label="Colour"
      :value="surface.finish ? linearToHex(surface.finish.baseColor) : surface.colour"
      @change="paint"
    />
    <div class="row buttons">
      <UiButton :pressed="picking" :aria-expanded="picking" data-test="surface-finish" @click="picking = !picking">
        {{ surface.finish ? surface.finish.name : 'Finish' }}
      </UiButton>
      <UiButton v-if="surface.finish" @click="useFinish(null)">Plain colour</UiButton>
      <UiButton data-test="try-on" @click="trying = true">Try on...</UiButton>
      <UiButton v-if="surface.kind === 'block' && surface.form === 'wall'" @click="gradient"> Gradient </UiButton>
      <UiButton
        v-if="surface.kind === 'sweep'"
        :pressed="surface.catcher"
        tip="The picture keeps only the shadows and mirror images that fall on it"
        @click="catchShadows"
      >
        Shadow catcher
      </UiButton>
    </div>
    <FinishPicker v-if="picking" @pick="useFinish" />
    <v-dialog v-model="trying" max-width="980" aria-label="Try finishes on">
      <TryOn v-if="trying" :id="id" @pick="(f) => (useFinish(f), (trying = false))" @close="trying = false" />
    </v-dialog>
  </template>
</template>

<style scoped>
.buttons {
  flex-wrap: wrap;
  gap: 4px;
  margin: 6px 0;
}
</style>
