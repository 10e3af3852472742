<script setup lang="ts">
import { mdiClose } from '@mdi/js';
import { computed } from 'vue';
import { clearRun, setRun, TITLE_PROPERTIES, type TextRun, type Title } from '@tender-orbit/core/document';
import { TITLE_FONTS, titleParts } from '@tender-orbit/core/promo';
import { shortened } from '@tender-orbit/core/text';
import FontField from '../controls/FontField.vue';
import { ColourField, IconButton, MenuButton, MoreFields, NumberField, type MenuLines } from '../ui/index.ts';
import { usePromo } from './use-promo.ts';

/** Letters of a title that are set otherwise than the rest. */
const { title, selection } = defineProps<{
  title: Title;
  /** Letters that are selected in its text; null: none. */
  selection: { from: number; to: number } | null;
}>();
const { run } = usePromo();
const { tracking } = TITLE_PROPERTIES;
const runs = computed(() => title.runs ?? []);
const textOf = ({ from, to }: Pick<TextRun, 'from' | 'to'>): string => title.text.slice(from, to);
const lines = computed((): MenuLines => {
  const free = titleParts(title.text, 'word').filter(
    (word) => !runs.value.some((r) => r.from < word.to && word.from < r.to),
  );
  return [
    {
      title: selection ? `The selection, “${shortened(textOf(selection), 24)}”` : 'The selection (none in the text)',
      disabled: !selection,
      run: () => selection && apart(selection),
    },
    ...free.slice(0, 12).map((word) => ({ title: `“${shortened(textOf(word), 24)}”`, run: () => apart(word) })),
  ];
});
/** What is set apart is seen to be: by its colour, which can be changed. */
const apart = ({ from, to }: { from: number; to: number }): void =>
  run(setRun(title.id, 'Set letters apart', { from, to, colour: '#E0A63C' }));
const set = (of: TextRun, values: Partial<TextRun>, gesture = ''): void =>
  run(setRun(title.id, 'Change letters set apart', { ...of, ...values }), gesture);
const variable = ({ font = title.font }: TextRun): boolean => TITLE_FONTS.some(({ id, axes }) => id === font && axes);
</script>

<template>
  <MoreFields title="Letters set apart">
    <MenuButton tip="Gives letters a font, colour, size or tracking of their own" :lines="lines" data-test="set-apart"
      >Set apart</MenuButton
    >
    <template v-for="one in runs" :key="`${one.from}`">
      <div class="row">
        <h3 class="spread clip">“{{ shortened(textOf(one), 30) }}”</h3>
        <IconButton
          small
          :icon="mdiClose"
          :label="`Set ${shortened(textOf(one), 30)} like the others`"
          @click="run(clearRun(title.id, one.from))"
        />
      </div>
      <FontField :value="one.font ?? title.font" @change="(font) => set(one, { font })" />
      <ColourField
        label="Colour"
        :value="one.colour ?? title.colour"
        @change="(colour, g) => set(one, { colour }, g)"
      />
      <NumberField
        label="Size"
        unit="%"
        :value="(one.size ?? 1) * 100"
        :min="10"
        :max="1000"
        :step="5"
        :usual="100"
        @change="(v, g) => set(one, { size: v / 100 }, g)"
      />
      <NumberField
        label="Raised"
        unit="em"
        :value="one.raise ?? 0"
        :min="-5"
        :max="5"
        :step="0.05"
        :usual="0"
        @change="(raise, g) => set(one, { raise }, g)"
      />
      <NumberField
        label="Tracking"
        unit="em"
        :value="one.tracking ?? 0"
        :min="tracking.min"
        :max="tracking.max"
        :step="0.01"
        :usual="0"
        @change="(wider, g) => set(one, { tracking: wider }, g)"
      />
      <NumberField
        v-if="variable(one)"
        label="Weight"
        unit=""
        :value="one.weight ?? title.weight ?? 400"
        :min="1"
        :max="1000"
        :step="10"
        :usual="400"
        @change="(weight, g) => set(one, { weight }, g)"
      />
    </template>
  </MoreFields>
</template>
