<script setup lang="ts">
import { mdiFormatAlignCenter, mdiFormatAlignLeft, mdiFormatAlignRight } from '@mdi/js';
import { computed, ref, watch } from 'vue';
import {
  styleOf,
  styleTitles,
  writeTitle,
  type Arrival,
  type ArrivalKind,
  type Title,
} from '@tender-orbit/core/document';
import { shortened } from '@tender-orbit/core/text';
import { useTitleStyles } from '../stores/index.ts';
import FontField from '../controls/FontField.vue';
import CalloutFields from './CalloutFields.vue';
import TitleDress from './TitleDress.vue';
import TitleFill from './TitleFill.vue';
import TitleGallery from './TitleGallery.vue';
import TitleParts from './TitleParts.vue';
import TitlePlace from './TitlePlace.vue';
import TitleRuns from './TitleRuns.vue';
import { usePromo } from './use-promo.ts';
import {
  ColourField,
  FieldRow,
  MenuButton,
  NumberField,
  SelectField,
  TextArea,
  ToggleRow,
  UiButton,
  optionsOf,
  type MenuLines,
} from '../ui/index.ts';

const { title } = defineProps<{ title: Title }>();
const { promo, run, editTitle } = usePromo();
const kept = useTitleStyles();
const gallery = ref(false);
/** Letters of the text that are selected. */
const selection = ref<{ from: number; to: number } | null>(null);
watch(
  () => [title.id, title.text],
  () => (selection.value = null),
);
const others = computed(() => (promo.value?.titles ?? []).filter(({ id }) => id !== title.id));
const styleLines = computed((): MenuLines => [
  {
    title: `Give it to all ${others.value.length} other titles`,
    disabled: others.value.length === 0,
    run: () => give(others.value.map(({ id }) => id)),
  },
  ...others.value.map(({ id, text }) => ({ title: `Give it to "${shortened(text, 28)}"`, run: () => give([id]) })),
  null,
  { title: 'Keep it in the gallery', run: keep },
]);
const give = (ids: readonly string[]): void => run(styleTitles(ids, styleOf(title)));
/** Kept styles are of a promo 540 pixels high. */
function keep(): void {
  const size = (title.size * 540) / (promo.value?.height ?? 540);
  void kept.keep({ ...styleOf(title), size }, shortened(title.text.trim() || 'Style', 60));
}
const LONGEST = 2000;
const tooLong = computed(() => title.text.length > LONGEST);

function set(label: string, values: Partial<Title>, gesture = ''): void {
  editTitle(title.id, label, values, gesture);
}
function setArrival(side: 'arrive' | 'leave', values: Partial<Arrival>, gesture = ''): void {
  set(side === 'arrive' ? 'Change arrival' : 'Change leaving', { [side]: { ...title[side], ...values } }, gesture);
}
const KINDS = optionsOf<ArrivalKind>({
  ...{ none: 'at once', fade: 'fade', rise: 'rise', slide: 'slide', scale: 'scale', type: 'typing' },
  ...{ unmask: 'out of the line', blur: 'out of blur', turn: 'turning', tracking: 'letters closing up' },
  ...{ flicker: 'flickering', count: 'counting up' },
});
const ALIGNS: Array<{ value: Title['align']; label: string; icon: string }> = [
  { value: 'left', label: 'Left', icon: mdiFormatAlignLeft },
  { value: 'centre', label: 'Centre', icon: mdiFormatAlignCenter },
  { value: 'right', label: 'Right', icon: mdiFormatAlignRight },
];
</script>

<template>
  <h2>Title</h2>
  <div class="row">
    <UiButton data-test="open-gallery" @click="gallery = true">Gallery</UiButton>
    <MenuButton tip="Its style to other titles, or kept for any promo" :lines="styleLines" data-test="title-style"
      >Style</MenuButton
    >
  </div>
  <TitleGallery :open="gallery" :title="title" @close="gallery = false" />
  <TextArea
    :rows="3"
    :value="title.text"
    label="Title text"
    :error="
      tooLong
        ? `${title.text.length} characters are too many for a title: shorten it to ${LONGEST}. It is kept here, but not saved until then.`
        : ''
    "
    data-test="title-text"
    @typed="(text) => run(writeTitle(title.id, text), `write-${title.id}`)"
    @select="(from, to) => (selection = from < to ? { from, to } : null)"
  />

  <FontField :value="title.font" @change="(font) => set('Choose font', { font })" />
  <NumberField
    label="Size"
    unit="px"
    :value="title.size"
    :min="4"
    :max="2000"
    :step="1"
    @change="(v, g) => set('Change title size', { size: v }, g)"
  />
  <ColourField label="Colour" :value="title.colour" @change="(v, g) => set('Colour title', { colour: v }, g)" />
  <TitleRuns :title="title" :selection="selection" />
  <TitleFill :title="title" />
  <TitleDress :title="title" />
  <CalloutFields :title="title" />
  <TitlePlace :title="title" />
  <ToggleRow
    class="aligns"
    label="Alignment"
    :options="ALIGNS"
    :value="title.align"
    @change="(align) => set('Align title', { align })"
  />
  <NumberField
    label="Starts at"
    unit="f"
    :value="title.start"
    :min="0"
    :max="100000"
    :step="1"
    @change="(v, g) => set('Move title', { start: Math.round(v) }, g)"
  />
  <NumberField
    label="Stays for"
    unit="f"
    :value="title.length"
    :min="1"
    :max="100000"
    :step="1"
    @change="(v, g) => set('Change title length', { length: Math.round(v) }, g)"
  />
  <template v-for="side in ['arrive', 'leave'] as const" :key="side">
    <FieldRow :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'">
      <SelectField
        :label="side === 'arrive' ? 'Arrives by' : 'Leaves by'"
        :options="KINDS"
        :value="title[side].kind"
        @change="(kind) => setArrival(side, { kind })"
      />
    </FieldRow>
    <NumberField
      v-if="title[side].kind !== 'none'"
      :label="side === 'arrive' ? 'within' : 'over'"
      unit="f"
      :value="title[side].frames"
      :min="0"
      :max="1000"
      :step="1"
      @change="(v, g) => setArrival(side, { frames: Math.round(v) }, g)"
    />
    <ColourField
      v-if="title[side].kind !== 'none'"
      :label="side === 'arrive' ? 'Colour as it comes' : 'Colour as it goes'"
      :value="title[side].colour ?? title.colour"
      @change="(colour, g) => setArrival(side, { colour: colour === title.colour ? undefined : colour }, g)"
    />
    <TitleParts v-if="side === 'arrive' && title.arrive.kind !== 'none'" :title="title" />
  </template>
</template>

<style scoped>
.aligns {
  margin-left: 20px;
}
.why {
  margin: 0;
  color: var(--coral);
  font-size: 12px;
}
</style>
