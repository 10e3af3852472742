<script setup lang="ts">
import { shortened } from '@tender-orbit/core/text';
import { deleteUnusedFinishes, findFinish, finishIdOf } from '@tender-orbit/core/document';
import { mdiContentCopy, mdiEyedropper, mdiFormatPaint } from '@mdi/js';
import { computed, ref } from 'vue';
import type { Finish } from '@tender-orbit/core/finish';
import { useDesk } from '../stores/index.ts';
import FinishPicker from '../set/details/FinishPicker.vue';
import FinishFields from './FinishFields.vue';
import FinishBall from './FinishBall.vue';
import { IconButton, UiButton } from '../ui/index.ts';

const desk = useDesk();
const library = ref(false);
const product = computed(() => desk.product!);
const finish = computed(() => findFinish(product.value, desk.finish));
const wearers = computed(() =>
  product.value.parts
    .filter((p) => finishIdOf(p, desk.variant) === desk.finish)
    .map((p) => p.name)
    .join(', '),
);
function duplicate(): void {
  const copy = JSON.parse(JSON.stringify(finish.value)) as Finish;
  desk.dress({ ...copy, name: shortened(`${copy.name} copy`, 200) }, 'Duplicate finish');
}
</script>

<template>
  <section v-if="finish" aria-label="Finish" data-test="finish-panel">
    <div class="row">
      <h3 class="clip">{{ finish.name }}</h3>
      <span class="dim clip spread right">on {{ wearers || 'this variant' }}</span>
    </div>
    <div class="balls" role="group" aria-label="Finishes of this product">
      <FinishBall
        v-for="f in product.finishes"
        :key="f.id"
        :finish="f"
        :on="f.id === desk.finish"
        data-test="finish-ball"
        @click="desk.usePartFinish(f.id)"
      />
    </div>
    <div class="row tools">
      <UiButton :pressed="library" :aria-expanded="library" data-test="library" @click="library = !library">
        Ready finishes
      </UiButton>
      <IconButton :icon="mdiContentCopy" label="Duplicate this finish" @click="duplicate" />
      <IconButton
        :icon="mdiEyedropper"
        :label="desk.pickedUp ? `Pick up this finish instead of ${desk.pickedUp.name}` : 'Pick up this finish'"
        :pressed="desk.pickedUp !== null"
        @click="desk.pickedUp = desk.pickedUp ? null : JSON.parse(JSON.stringify(finish))"
      />
      <IconButton
        :icon="mdiFormatPaint"
        :label="desk.pickedUp ? `Drop ${desk.pickedUp.name} on this part` : 'Drop a finish that was picked up'"
        :disabled="!desk.pickedUp"
        @click="desk.dress(desk.pickedUp!, `Drop ${desk.pickedUp!.name}`)"
      />
      <UiButton v-if="desk.unused.length" @click="desk.run(deleteUnusedFinishes())">
        Unused: {{ desk.unused.length }}
      </UiButton>
    </div>
    <FinishPicker v-if="library" @pick="(f) => desk.dress(f, `Use ${f.name}`)" />
    <FinishFields :product-id="desk.id" :finish="finish" />
  </section>
</template>

<style scoped>
.right {
  text-align: right;
}
.balls {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 4px;
  margin: 6px 0;
}
.tools {
  flex-wrap: wrap;
  gap: 4px;
}
</style>
