<script setup lang="ts">
import { setPart, type Title, type TitleCallout } from '@tender-orbit/core/document';
import { CheckField, FieldRow, MoreFields, NumberField, SelectField, UiButton, optionsOf } from '../ui/index.ts';
import { useCallout } from './use-callout.ts';
import { usePromo } from './use-promo.ts';

/** What a title points at, and the line that goes there. */
const { title } = defineProps<{ title: Title }>();
const { run } = usePromo();
const { picking, following } = useCallout();
const MARKS = optionsOf<TitleCallout['mark']>({ ring: 'in a ring', dot: 'in a dot', none: 'by itself' });
const set = (values: Partial<TitleCallout>, gesture = ''): void =>
  run(setPart(title.id, 'Change callout', 'callout', { ...title.callout!, ...values }), gesture);
</script>

<template>
  <MoreFields title="Callout">
    <p v-if="picking === title.id" class="dim" role="status">Press on the product in the picture.</p>
    <p v-else-if="following" class="dim" role="status">Following the point through the take...</p>
    <div class="row">
      <UiButton
        :pressed="picking === title.id"
        :disabled="following"
        tip="A line goes from the title to a point of the product, which the shot's camera is followed by"
        data-test="point-at"
        @click="picking = picking === title.id ? '' : title.id"
        >{{ title.callout ? 'Point elsewhere' : 'Point at the product' }}</UiButton
      >
      <UiButton v-if="title.callout" @click="run(setPart(title.id, 'Point at nothing', 'callout', null))"
        >No line</UiButton
      >
    </div>
    <template v-if="title.callout">
      <CheckField label="Goes along with it" :value="title.callout.rides" @change="(rides) => set({ rides })" />
      <FieldRow label="Ends">
        <SelectField label="Ends" :options="MARKS" :value="title.callout.mark" @change="(mark) => set({ mark })" />
      </FieldRow>
      <NumberField
        label="Line"
        unit="em"
        :value="title.callout.line"
        :min="0"
        :max="2"
        :step="0.01"
        :usual="0.05"
        @change="(line, g) => set({ line }, g)"
      />
    </template>
  </MoreFields>
</template>

<style scoped>
p {
  margin: 0;
}
</style>
