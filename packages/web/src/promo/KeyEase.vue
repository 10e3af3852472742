<script setup lang="ts">
import { easeKeys, type Ease } from '@tender-orbit/core/document';
import { computed } from 'vue';
import { chosenEase, easeChoice, easeOptions } from '../moves/ease-choices.ts';
import { FieldRow, SelectField } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** How the keys that a clip or a layer has at a frame of its own go on to the next ones. */
const { thing, frame } = defineProps<{ thing: string; frame: number }>();
const { promo, run } = usePromo();
const here = computed(() =>
  (promo.value?.tracks ?? [])
    .filter((t) => t.thing === thing)
    .flatMap((t) => t.keys.filter((k) => k.frame === frame).map((k) => ({ path: t.path, ease: k.ease }))),
);
const options = computed(() => easeOptions(promo.value?.eases ?? []));
function set(ease: Ease): void {
  run(
    easeKeys(
      here.value.map(({ path }) => ({ thing, path, frame })),
      ease,
    ),
  );
}
</script>

<template>
  <FieldRow v-if="here.length > 0" label="From here">
    <SelectField
      label="Ease from these keys"
      :options="options"
      :value="easeChoice(here[0].ease)"
      data-test="key-ease"
      @change="(choice) => set(chosenEase(choice))"
    />
  </FieldRow>
</template>
