<script setup lang="ts">
import { clearTitleKeys, keyTitle, TITLE_PROPERTIES, type Title, type TitlePath } from '@tender-orbit/core/document';
import { TITLE_FONTS, TITLE_MOVES, titleMove } from '@tender-orbit/core/promo';
import { beatsBetween } from '@tender-orbit/core/time';
import { computed } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { MenuButton, UiButton } from '../ui/index.ts';
import KeyEase from './KeyEase.vue';
import KeyedFields from './KeyedFields.vue';
import { usePromo } from './use-promo.ts';
import { useTitleValues } from './use-title-values.ts';

/** Where a title lies and how its letters are set: values at the playhead, with the beads that key them. */
const { title } = defineProps<{ title: Title }>();
const campaign = useCampaign();
const { promo, grid, run } = usePromo();
const keys = useTitleValues(() => title);
const axes = computed(() => TITLE_FONTS.find(({ id }) => id === title.font)?.axes);
const paths = computed((): TitlePath[] => [
  ...(['x', 'y', 'scale', 'rotation', 'opacity', 'tracking', 'bend'] as const),
  ...(axes.value ? (['weight'] as const) : []),
  ...(axes.value?.stretch ? (['stretch'] as const) : []),
]);
const LABELS = { stretch: 'Letter width' };
const moved = computed(() => promo.value?.tracks.some((t) => t.thing === title.id));
const beats = computed(() =>
  grid.value
    ? beatsBetween(grid.value, campaign.rate, title.start, title.start + title.length).map((b) => b.frame - title.start)
    : [],
);
const moves = computed(() =>
  TITLE_MOVES.map((kind) => ({
    title: kind.replace(/^./, (letter) => letter.toUpperCase()),
    run: () => {
      const aspect = (promo.value?.width ?? 16) / (promo.value?.height ?? 9);
      const ground = { length: title.length, beats: beats.value, strength: 1, seed: 1 };
      run(keyTitle(title.id, kind, titleMove(kind, title, ground, aspect)));
    },
  })),
);
</script>

<template>
  <KeyedFields :of="keys" :properties="TITLE_PROPERTIES" :paths="paths" :labels="LABELS" />
  <KeyEase :thing="title.id" :frame="keys.at.value" />
  <div class="row">
    <MenuButton :lines="moves" tip="Keys of a usual move while it is there" data-test="title-move"
      >Move by recipe</MenuButton
    >
    <UiButton v-if="moved" @click="run(clearTitleKeys(title.id))">At rest</UiButton>
  </div>
</template>
