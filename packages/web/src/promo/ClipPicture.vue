<script setup lang="ts">
import {
  CLIP_PROPERTIES,
  clearClipPicture,
  keyClip,
  newClipPicture,
  setClipPicture,
  setPart,
  type Clip,
  type ClipPath,
} from '@tender-orbit/core/document';
import { PICTURE_RECIPES, pictureRecipe } from '@tender-orbit/core/promo';
import { beatsBetween } from '@tender-orbit/core/time';
import { computed } from 'vue';
import { useCampaign } from '../stores/index.ts';
import { CheckField, FieldRow, MenuButton, MoreFields, SelectField, UiButton, optionsOf } from '../ui/index.ts';
import KeyEase from './KeyEase.vue';
import KeyedFields from './KeyedFields.vue';
import { useClipPicture } from './use-clip-picture.ts';
import { usePromo } from './use-promo.ts';

/** How a clip's picture lies in the frame: values at the playhead, with the beads that key them. */
const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { grid, run } = usePromo();
const FILLS = optionsOf<NonNullable<Clip['fill']> | 'bars'>({
  bars: 'between bars',
  cropped: 'cropped',
  blurred: 'over itself, blurred',
});
const PLACE: readonly ClipPath[] = ['scale', 'x', 'y', 'rotation', 'opacity'];
const EDGES: readonly ClipPath[] = ['radius', 'blur', 'cropLeft', 'cropRight', 'cropTop', 'cropBottom'];

const keys = useClipPicture(() => clip);
const { from } = keys;
const picture = computed(() => clip.picture ?? newClipPicture());
const setFill = (fill: NonNullable<Clip['fill']> | 'bars'): void =>
  run(setPart(clip.id, 'Fill the frame', 'fill', fill === 'bars' ? null : fill));

const beats = computed(() =>
  grid.value
    ? beatsBetween(grid.value, campaign.rate, from.value, from.value + clip.length).map((b) => b.frame - from.value)
    : [],
);
const recipes = computed(() =>
  PICTURE_RECIPES.map((kind) => ({
    title: kind.replace(/^./, (letter) => letter.toUpperCase()),
    run: () => {
      const ground = { length: clip.length, beats: beats.value, strength: 1, seed: 1 };
      const { picture: values, keys } = pictureRecipe(kind, ground);
      run(keyClip(clip.id, kind, keys, values));
    },
  })),
);
const moved = computed(() => clip.picture !== undefined);
</script>

<template>
  <h3>Picture</h3>
  <FieldRow label="Fills">
    <SelectField label="Fills" :options="FILLS" :value="clip.fill ?? 'bars'" @change="setFill" />
  </FieldRow>
  <KeyedFields :of="keys" :properties="CLIP_PROPERTIES" :paths="PLACE" />
  <KeyEase :thing="clip.id" :frame="keys.at.value" />
  <MoreFields title="Crop, corners and blur">
    <KeyedFields :of="keys" :properties="CLIP_PROPERTIES" :paths="EDGES" />
    <CheckField
      label="Mirrored"
      :value="picture.mirror"
      @change="(mirror) => run(setClipPicture(clip.id, 'Mirror picture', { mirror }))"
    />
  </MoreFields>
  <CheckField
    label="Never leaves a corner empty"
    :value="picture.cover"
    @change="(cover) => run(setClipPicture(clip.id, 'Cover the frame', { cover }))"
  />
  <div class="row">
    <MenuButton :lines="recipes" tip="Keys of a usual move, all of which can be changed" data-test="picture-recipe"
      >Move by recipe</MenuButton
    >
    <UiButton v-if="moved" @click="run(clearClipPicture([clip.id]))">At rest</UiButton>
  </div>
</template>
