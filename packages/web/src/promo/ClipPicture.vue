<script setup lang="ts">
import {
  CLIP_PROPERTIES,
  clearClipPicture,
  keyClip,
  keyValue,
  newClipPicture,
  setClipPicture,
  setPart,
  toggleKey,
  type Clip,
  type ClipPath,
} from '@tender-orbit/core/document';
import { clipValues, PICTURE_RECIPES, pictureRecipe, placedClips } from '@tender-orbit/core/promo';
import { beatsBetween } from '@tender-orbit/core/time';
import { computed, toRaw } from 'vue';
import PropertyField from '../controls/PropertyField.vue';
import { useCampaign } from '../stores/index.ts';
import { CheckField, FieldRow, MenuButton, MoreFields, SelectField, UiButton, optionsOf } from '../ui/index.ts';
import KeyEase from './KeyEase.vue';
import { usePromo } from './use-promo.ts';

/** How a clip's picture lies in the frame: values at the playhead, with the beads that key them. */
const { clip } = defineProps<{ clip: Clip }>();
const campaign = useCampaign();
const { promo, frame, grid, run } = usePromo();
const FILLS = optionsOf<NonNullable<Clip['fill']> | 'bars'>({
  bars: 'between bars',
  cropped: 'cropped',
  blurred: 'over itself, blurred',
});
const PLACE: readonly ClipPath[] = ['scale', 'x', 'y', 'rotation', 'opacity'];
const EDGES: readonly ClipPath[] = ['radius', 'blur', 'cropLeft', 'cropRight', 'cropTop', 'cropBottom'];

const from = computed(() => placedClips(promo.value!).find((p) => p.clip.id === clip.id)?.from ?? 0);
/** The playhead in frames of the clip; where it is elsewhere, the nearest frame of it. */
const at = computed(() => Math.min(clip.length - 1, Math.max(0, frame.value - from.value)));
const picture = computed(() => clip.picture ?? newClipPicture());
const now = computed(() => clipValues({ id: clip.id, picture: picture.value }, toRaw(promo.value!))(at.value));
const trackOf = (path: ClipPath) => promo.value?.tracks.find((t) => t.thing === clip.id && t.path === path);
function keyed(path: ClipPath): 'key' | 'track' | 'none' {
  const track = trackOf(path);
  if (!track) return 'none';
  return track.keys.some((k) => k.frame === at.value) ? 'key' : 'track';
}
function set(path: ClipPath, value: number, gesture: string): void {
  const label = `Change ${CLIP_PROPERTIES[path].label.toLowerCase()} of clip`;
  if (keyed(path) === 'none') run(setClipPicture(clip.id, label, { [path]: value }), gesture);
  else run(keyValue({ thing: clip.id, path, frame: at.value }, value, label), gesture);
}
function key(path: ClipPath): void {
  const gesture = `key-${Date.now()}`;
  // What is keyed needs a picture that its keys are of.
  if (!clip.picture) run(setClipPicture(clip.id, 'Key picture', {}), gesture);
  const label = CLIP_PROPERTIES[path].label.toLowerCase();
  run(toggleKey({ thing: clip.id, path, frame: at.value }, now.value[path], label), gesture);
}
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
  <PropertyField
    v-for="path in PLACE"
    :key="path"
    :property="CLIP_PROPERTIES[path]"
    :value="now[path]"
    keyable
    :keyed="keyed(path)"
    @change="(v, gesture) => set(path, v, gesture)"
    @key="key(path)"
  />
  <KeyEase :thing="clip.id" :frame="at" />
  <MoreFields title="Crop, corners and blur">
    <PropertyField
      v-for="path in EDGES"
      :key="path"
      :property="CLIP_PROPERTIES[path]"
      :value="now[path]"
      keyable
      :keyed="keyed(path)"
      @change="(v, gesture) => set(path, v, gesture)"
      @key="key(path)"
    />
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
