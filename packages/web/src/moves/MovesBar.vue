<script setup lang="ts">
import {
  mdiMagnifyMinusOutline,
  mdiMagnifyPlusOutline,
  mdiPause,
  mdiPlay,
  mdiRecordCircleOutline,
  mdiSpeedometer,
} from '@mdi/js';
import { computed } from 'vue';
import { useActions } from '../actions/index.ts';
import { countOf } from '../controls/count-of.ts';
import { useCampaign, usePlayhead, useStage } from '../stores/index.ts';
import { usePathDrawing } from '../things/use-path-drawing.ts';
import { IconButton, MenuButton, NumberField, UiButton } from '../ui/index.ts';
import { useFilm } from '../viewer/film.ts';
import { useRules } from './rules/use-rules.ts';
import { useKeySelection } from './use-key-selection.ts';
import { useMovesVersions } from './use-moves-versions.ts';
import { useScreenSpeed } from './speed/use-screen-speed.ts';
import { useShotBeats } from './use-shot-beats.ts';

/** What is done with the timeline as a whole. */
const { layers } = defineProps<{ layers: boolean }>();
const snap = defineModel<boolean>('snap', { required: true });
const emit = defineEmits<{ zoom: [times: number] }>();
const campaign = useCampaign();
const playhead = usePlayhead();
const stage = useStage();
const film = useFilm();
const grid = useShotBeats();
const rules = useRules();
const actions = useActions();
const selection = useKeySelection();
const pen = usePathDrawing();
const versions = useMovesVersions();
const speed = useScreenSpeed();
const length = computed(() => campaign.shot?.length ?? 1);
const ruleLines = computed(() => (stage.selected && !layers ? rules.thingLines(stage.selected) : []));
const recordLabel = computed(() => (stage.recording ? 'Recording: every change is a key' : 'Record keys'));
const motion = computed(() => [
  ...actions.lines(['motion.copy', 'motion.drop', 'motion.shatter', 'moves.draw-path', 'moves.land', null]),
  ...actions.lines(['time.loop-from', 'time.loop-to', 'time.loop-all']),
]);
</script>

<template>
  <div class="row head">
    <IconButton
      :icon="playhead.playing ? mdiPause : mdiPlay"
      :label="playhead.playing ? 'Stop' : 'Play'"
      action="time.play"
      @click="playhead.play(length, campaign.rate)"
    />
    <template v-if="!layers">
      <IconButton
        class="record"
        :icon="mdiRecordCircleOutline"
        :label="recordLabel"
        action="moves.record"
        :pressed="stage.recording"
        data-test="record"
        @click="actions.run('moves.record')"
      />
      <UiButton
        :pressed="film.wanted"
        tip="Draws every frame once while you rest, then plays in true time; an edit draws anew only what it touches"
        data-test="preview"
        @click="film.wanted = !film.wanted"
      >
        Preview{{ film.wanted && film.share < 1 ? ` ${Math.round(film.share * 100)} %` : '' }}
      </UiButton>
      <UiButton
        v-if="film.wanted"
        :pressed="film.blurred"
        tip="Each frame of the preview as the open shutter sees it"
        data-test="film-blur"
        @click="film.blurred = !film.blurred"
      >
        Motion blur
      </UiButton>
    </template>
    <UiButton
      :pressed="snap"
      :tip="
        grid
          ? 'What is dragged lands on beats and on other keys; Alt while dragging: anywhere'
          : 'What is dragged lands on other keys, and on beats once the shot has music; Alt: anywhere'
      "
      @click="snap = !snap"
    >
      Snap
    </UiButton>
    <MenuButton
      v-if="ruleLines.length"
      :lines="ruleLines"
      tip="Something that acts on top of keys: drift, follow, roll along…"
      data-test="add-rule"
    >
      Add rule
    </MenuButton>
    <template v-if="!layers">
      <MenuButton :lines="motion" tip="What is done with whole moves, and what is played round" data-test="motion">
        Motion
      </MenuButton>
      <MenuButton
        :lines="versions.lines.value"
        tip="Two versions of this shot's moves, to choose between"
        data-test="versions"
      >
        Version {{ versions.name.value }}
      </MenuButton>
      <IconButton
        :icon="mdiSpeedometer"
        label="Screen speed"
        action="moves.speed"
        :pressed="speed.open.value"
        data-test="screen-speed-button"
        @click="actions.run('moves.speed')"
      />
    </template>
    <span v-if="stage.recording" class="on-air" role="status">Recording keys</span>
    <span v-if="pen.drawing.value" class="pen row" role="status">
      Drag along the floor
      <NumberField
        class="smooth"
        label="Smoothing"
        :value="pen.smoothing.value"
        :min="0"
        :max="1"
        :step="0.05"
        @change="(v) => (pen.smoothing.value = v)"
      />
    </span>
    <span class="spread" />
    <slot />
    <span class="dim clip">{{
      selection.count.value ? `${countOf(selection.count.value, 'key')} chosen` : 'Drag beads, or a box round several'
    }}</span>
    <IconButton small :icon="mdiMagnifyMinusOutline" label="Show more of the shot" @click="emit('zoom', 1 / 1.6)" />
    <IconButton small :icon="mdiMagnifyPlusOutline" label="Show less of the shot" @click="emit('zoom', 1.6)" />
  </div>
</template>

<style scoped>
.head {
  padding: 4px 10px 0;
}
.record.on,
.on-air {
  color: var(--coral);
}
.on-air {
  font-weight: 600;
}
.pen {
  gap: 8px;
  color: var(--coral);
}
.smooth {
  width: 190px;
}
</style>
