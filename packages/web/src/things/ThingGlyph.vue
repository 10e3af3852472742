<script setup lang="ts">
import type { ThingRole } from '@tender-orbit/core/document';
import { ROLE_COLOUR } from './role.ts';

const { kind, card = false } = defineProps<{
  kind: ThingRole;
  /** A flat card among the surfaces. */ card?: boolean;
}>();
const CARD = 'M4 2.500l8 2v9l-8-2z';
const SHAPES: Record<ThingRole, string> = {
  product:
    'M5 3h6v2.200H5zM4.300 7.300h7.400q1 .8 1 2.200v3q0 1.300-1.300 1.300H4.600q-1.300 0-1.300-1.300v-3q0-1.400 1-2.200z',
  surface: 'M3 2v7q0 4 4 4h7',
  light: 'M3 4h10v8H3z',
  environment: 'M2 12a6 6 0 0 1 12 0z',
  camera: 'M2 3h12L8 13z',
  null: 'M8 2v12M2 8h12',
  effect: 'M3 12a3 3 0 0 1 1-5.500a4 4 0 0 1 7.500-1A3.500 3.500 0 0 1 12 12z',
};
</script>

<template>
  <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" :style="{ color: ROLE_COLOUR[kind] }">
    <path
      :d="card ? CARD : SHAPES[kind]"
      :fill="kind === 'surface' || kind === 'camera' || kind === 'environment' ? 'none' : 'currentColor'"
      stroke="currentColor"
      stroke-width="1.5"
      stroke-linejoin="round"
    />
  </svg>
</template>
