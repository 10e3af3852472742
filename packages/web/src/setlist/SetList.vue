<script setup lang="ts">
import { computed, ref } from 'vue';
import type { BlockForm, LightRole, SavedKit, SetDocument } from '@tender-orbit/core/document';
import { LIGHT_KITS } from '@tender-orbit/core/staging';
import { download } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices, useStage } from '../stores/index.ts';
import type { ThingRole } from '@tender-orbit/core/document';
import { ROLE_COLOUR } from '../things/role.ts';
import ThingRow, { type ThingItem } from './ThingRow.vue';

const campaign = useCampaign();
const stage = useStage();
const menu = ref('');
const documents = useDocuments();
const notices = useNotices();
const exporting = ref(false);

/** The shot's set with its moves, as other software opens it; what is not saved yet goes to the server first. */
async function exportSet(): Promise<void> {
  exporting.value = true;
  await notices.guard(async () => {
    await documents.settled();
    const { blob, name } = await download(`/shots/${campaign.shotId}/staged.glb`);
    const link = document.createElement('a');
    link.href = URL.createObjectURL(blob);
    link.download = name;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
  });
  exporting.value = false;
}

interface Group {
  kind: ThingRole;
  title: string;
  items: ThingItem[];
  /** What its + offers. */
  add: Array<{
    label: string;
    act: () => void;
    /** Takes it out of the list for good. */
    drop?: () => void;
    /** Said above it; empty draws a line. */
    heading?: string;
  }>;
  empty: string;
}

const ROLES: Array<[LightRole, string]> = [
  ['key', 'Key softbox'],
  ['fill', 'Fill softbox'],
  ['rim', 'Rim softbox'],
  ['top', 'Top softbox'],
  ['background', 'Background softbox'],
];
const FORMS: Array<[BlockForm, string]> = [
  ['plinth', 'Plinth'],
  ['drum', 'Round plinth'],
  ['steps', 'Steps'],
  ['tabletop', 'Tabletop'],
  ['floor', 'Floor'],
  ['wall', 'Wall or backdrop'],
  ['panel', 'Floating panel'],
];
const metres = (m: number): string => (m < 1 ? `${Math.round(m * 100)} cm` : `${m.toFixed(1)} m`);

const groups = computed<Group[]>(() => {
  const set = stage.posed as SetDocument;
  const key = set.lights.find((l) => l.role === 'key')?.lumens ?? 0;
  // A light's figure is its stops against the key: what a photographer compares.
  const stops = (lumens: number): string =>
    key > 0 && lumens > 0
      ? `${lumens >= key ? '+' : ''}${Math.log2(lumens / key).toFixed(1)}`
      : `${Math.round(lumens)} lm`;
  const heights = (id: string, times: number): string => {
    const product = campaign.products.get(id);
    return product ? metres(product.extent[1] * product.scale * times) : 'deleted';
  };
  return [
    {
      kind: 'product',
      title: 'Products',
      items: set.products.map((p) => ({
        id: p.id,
        name: p.name,
        figure: heights(p.product, p.scale),
        shown: p.visible,
        toggle: 'visible',
      })),
      add: [...campaign.products].map(([id, p]) => ({ label: p?.name ?? id, act: () => stage.addProduct(id) })),
      empty: 'Put a product here with +',
    },
    {
      kind: 'surface',
      title: 'Surfaces',
      items: set.surfaces.map((s) => ({
        id: s.id,
        name: s.name,
        figure: metres(s.width),
        shown: s.visible,
        toggle: 'visible',
        card: s.kind === 'card',
      })),
      add: [
        ...FORMS.map(([form, label]) => ({ label, act: () => stage.addBlock(form) })),
        { label: 'Flag (black card)', act: () => stage.addCard('flag') },
        { label: 'Bounce card (white)', act: () => stage.addCard('bounce') },
      ],
      empty: '',
    },
    {
      kind: 'light',
      title: 'Lights',
      items: [
        ...set.lights.map((l) => ({ id: l.id, name: l.name, figure: stops(l.lumens), shown: l.on, toggle: 'on' })),
        {
          id: 'environment',
          name: 'Room',
          figure: `${Math.round(set.environment.intensity)} cd`,
          kind: 'environment' as const,
        },
      ],
      add: [
        ...ROLES.map(([role, label]) => ({ label, act: () => stage.addLight(role) })),
        ...LIGHT_KITS.map((kit, i) => ({
          label: kit.replace(/^./, (c) => c.toUpperCase()),
          act: () => stage.useKit(kit),
          heading: i === 0 ? 'Light kits, in place of all lights' : undefined,
        })),
        ...(campaign.campaign?.kits ?? []).map((kit, i) => ({
          label: kit.name,
          act: () => stage.useKit(kit as SavedKit),
          drop: () => stage.removeKit(kit.id),
          heading: i === 0 ? 'Kept in this campaign' : undefined,
        })),
        { label: 'Keep these lights as a kit', act: () => stage.saveKit(), heading: '' },
      ],
      empty: '',
    },
    {
      kind: 'camera',
      title: 'Cameras',
      items: set.cameras.map((c) => ({ id: c.id, name: c.name, figure: `${Math.round(c.focalLength)} mm` })),
      add: [{ label: 'Camera where this one stands', act: () => stage.addCamera() }],
      empty: '',
    },
  ];
});
</script>

<template>
  <nav class="card scroll list" aria-label="Set list" data-test="set-list">
    <section v-for="group in groups" :key="group.kind">
      <div class="row title">
        <span class="mark" :style="{ background: ROLE_COLOUR[group.kind] }" />
        <h3>{{ group.title }}</h3>
        <span class="spread" />
        <v-menu
          v-if="group.add.length"
          :model-value="menu === group.kind"
          @update:model-value="(open) => (menu = open ? group.kind : '')"
        >
          <template #activator="{ props }"
            ><button v-bind="props" type="button" class="plus" :aria-label="`Add to ${group.title}`">
              +
            </button></template
          >
          <v-list density="compact" bg-color="surface-bright"
            ><template v-for="choice in group.add" :key="choice.label">
              <v-list-subheader v-if="choice.heading">{{ choice.heading }}</v-list-subheader>
              <v-divider v-else-if="choice.heading === ''" />
              <v-list-item :title="choice.label" @click="choice.act">
                <template v-if="choice.drop" #append>
                  <button
                    type="button"
                    class="plus"
                    :aria-label="`Delete kit ${choice.label}`"
                    @click.stop="choice.drop"
                  >
                    &times;
                  </button>
                </template>
              </v-list-item></template
            ></v-list
          >
        </v-menu>
      </div>
      <ThingRow v-for="item in group.items" :key="item.id" :item="item" :kind="item.kind ?? group.kind" />
      <p v-if="group.items.length === 0" class="dim hint">{{ group.empty }}</p>
    </section>
    <button type="button" class="chip export" :disabled="exporting" data-test="export-set" @click="exportSet">
      {{ exporting ? 'Writing the set...' : 'Export set as .glb' }}
    </button>
  </nav>
</template>

<style scoped>
.list {
  padding: 10px 8px;
}
section + section {
  margin-top: 12px;
}
.title {
  height: 26px;
  padding: 0 4px;
}
.mark {
  width: 3px;
  height: 13px;
  border-radius: 2px;
}
.plus {
  width: 24px;
  height: 24px;
  border: 0;
  border-radius: 6px;
  background: transparent;
  color: var(--bone-dim);
  font-size: 15px;
  cursor: pointer;
}
.plus:hover {
  background: var(--ink-2);
  color: var(--bone);
}
.export {
  margin: 16px 6px 4px;
}
.hint {
  margin: 4px 14px;
}
</style>
