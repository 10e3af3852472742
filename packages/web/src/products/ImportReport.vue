<script setup lang="ts">
import { computed } from 'vue';
import { mdiClose } from '@mdi/js';
import { chooseUnit } from '@tender-orbit/core/document';
import { METRES_IN, type LengthUnit } from '@tender-orbit/core/geometry';
import { addRig } from '@tender-orbit/core/staging';
import { countOf } from '../controls/count-of.ts';
import { useCampaign, useDesk, useNotices, useStage } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { IconButton, UiButton } from '../ui/index.ts';
import { rigWords, sizeWords, UNIT_NAMES, unitOffer } from '../controls/size-words.ts';
import { useImport } from './use-import.ts';

/** What the file that has just come in turned out to be, and what may have to be put right. */
const campaign = useCampaign();
const desk = useDesk();
const stage = useStage();
const notices = useNotices();
const { arrival } = useImport();

const product = computed(() => (arrival.value?.product === desk.id ? campaign.products.get(desk.id) : undefined));
const report = computed(() => arrival.value!.report);
const rig = computed(() => rigWords(report.value.lights.length, report.value.cameras.length));
/** The unit that it is taken in now, which a person may have changed since. */
const now = computed(() => {
  const known = Object.entries(METRES_IN) as Array<[LengthUnit, number]>;
  return known.find(([, metres]) => Math.abs(product.value!.scale / metres - 1) < 1e-6)?.[0];
});
const offers = computed(() => [report.value.unit, ...report.value.units].filter((unit) => unit !== now.value));

function putRig(): void {
  stage.run(addRig(report.value, product.value!.scale, campaign.aspect, freshId('file')));
  notices.done(`${rig.value} stand on the set now, as in the file.`);
  arrival.value = { ...arrival.value!, report: { ...report.value, lights: [], cameras: [] } };
}
</script>

<template>
  <section v-if="product" class="card report" aria-label="What came in" data-test="import-report">
    <div class="row">
      <h3 class="clip">{{ product.fileName }}</h3>
      <span class="dim">
        {{ countOf(product.parts.length, 'part') }}, {{ report.triangles.toLocaleString('en') }} triangles
      </span>
      <span class="spread" />
      <IconButton :icon="mdiClose" label="Put this away" @click="arrival = null" />
    </div>
    <div class="row facts">
      <span data-test="import-size">{{ sizeWords(product.extent, product.scale) }}</span>
      <span v-if="now" class="dim">with its numbers in {{ UNIT_NAMES[now] }}</span>
      <UiButton
        v-for="unit in offers"
        :key="unit"
        data-test="offer-unit"
        @click="desk.run(chooseUnit(METRES_IN[unit]))"
      >
        {{ unitOffer(unit, product.extent) }}
      </UiButton>
    </div>
    <ul v-if="report.notes.length" class="dim">
      <li v-for="note in report.notes" :key="note">{{ note }}</li>
    </ul>
    <div v-if="rig" class="row facts">
      <span class="dim">It brings {{ rig }}.</span>
      <UiButton data-test="put-rig" @click="putRig">Put them on the set</UiButton>
    </div>
  </section>
</template>

<style scoped>
.report {
  display: grid;
  gap: 6px;
  padding: 10px 14px;
}
.facts {
  flex-wrap: wrap;
  gap: 6px 10px;
}
ul {
  max-height: 84px;
  margin: 0;
  padding-left: 18px;
  overflow: auto;
}
</style>
