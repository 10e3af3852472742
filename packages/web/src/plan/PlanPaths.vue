<script setup lang="ts">
import { curveOfPath } from '@tender-orbit/core/motion';
import { computed, toRaw } from 'vue';
import { useMoveSelection } from '../things/use-move-selection.ts';
import { usePathPoints } from '../things/use-path-points.ts';
import PlanDot from './PlanDot.vue';

/** The drawn paths of the shot from above; points of the one in hand are dragged, or moved by arrow keys. */
const { scale } = defineProps<{ scale: number }>();
const points = usePathPoints();
const moves = useMoveSelection();
const STEPS = 64;
const riding = computed(() => (moves.rule.value?.kind === 'ride' ? moves.rule.value.target : ''));
const paths = computed(() =>
  points.paths.value.map((path) => ({
    path,
    line: curveOfPath(toRaw(path))
      .points(STEPS)
      .map(([x, , z]) => `${(x * scale).toFixed(2)},${(z * scale).toFixed(2)}`)
      .join(' '),
    open: moves.is(path.id) || riding.value === path.id,
  })),
);

/** Ends of handles, of points that have their own. */
const arms = computed(() =>
  paths.value
    .filter(({ open }) => open)
    .flatMap(({ path }) =>
      path.points.flatMap((point, i) =>
        (['in', 'out'] as const).flatMap((end) =>
          point.handles
            ? [
                {
                  path,
                  point,
                  end,
                  name: `Handle ${end} of point ${i + 1}`,
                  at: point.handles[end].map((v, a) => v + point.at[a]),
                },
              ]
            : [],
        ),
      ),
    ),
);
</script>

<template>
  <g v-for="{ path, line, open } in paths" :key="path.id">
    <polyline :points="line" class="way" :class="{ open }" />
    <polyline :points="line" class="reach" @pointerdown="moves.choose('path', path.id)" />
    <template v-if="open">
      <PlanDot
        v-for="(point, i) in path.points"
        :key="point.id"
        :x="point.at[0]"
        :z="point.at[2]"
        :scale="scale"
        :name="`Point ${i + 1} of ${path.name}`"
        data-test="path-point"
        @put="(x, z, gesture) => points.put(path, point, [x, point.at[1], z], gesture)"
      />
    </template>
  </g>
  <g v-for="arm in arms" :key="`${arm.point.id} ${arm.end}`">
    <line
      class="arm"
      :x1="arm.point.at[0] * scale"
      :y1="arm.point.at[2] * scale"
      :x2="arm.at[0] * scale"
      :y2="arm.at[2] * scale"
    />
    <PlanDot
      :x="arm.at[0]"
      :z="arm.at[2]"
      :scale="scale"
      :size="2.4"
      :name="arm.name"
      data-test="path-handle"
      @put="(x, z, gesture) => points.pull(arm.path, arm.point, arm.end, [x, arm.at[1], z], true, gesture)"
    />
  </g>
</template>

<style scoped>
.way {
  fill: none;
  stroke: var(--coral);
  stroke-width: 1;
  stroke-dasharray: 3 2;
}
.way.open {
  stroke-width: 1.6;
  stroke-dasharray: none;
}
.reach {
  fill: none;
  stroke: transparent;
  stroke-width: 8;
  cursor: pointer;
}
.arm {
  stroke: var(--coral);
  stroke-width: 0.8;
}
</style>
