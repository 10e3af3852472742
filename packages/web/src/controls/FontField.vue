<script setup lang="ts">
import { bringFont, forgetFont } from '@tender-orbit/core/document';
import { TITLE_FONTS } from '@tender-orbit/core/promo';
import { mdiPlus, mdiTrashCanOutline } from '@mdi/js';
import { computed, ref } from 'vue';
import { bringFontFile } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { FieldRow, FilePick, IconButton, SelectField } from '../ui/index.ts';

/** The font of a text: one that ships, or one that was brought for the campaign. */
const { value } = defineProps<{ value: string }>();
const emit = defineEmits<{ change: [font: string] }>();
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const picker = ref<InstanceType<typeof FilePick>>();
const busy = ref(false);
const own = computed(() => campaign.campaign?.fonts ?? []);
const chosen = computed(() => own.value.find(({ asset }) => asset === value));
const options = computed(() => {
  const known = [
    ...own.value.map(({ asset, name }) => ({ value: asset, title: `${name} (own)` })),
    ...TITLE_FONTS.map(({ id, label }) => ({ value: id, title: label })),
  ];
  return known.some((font) => font.value === value) ? known : [...known, { value, title: 'of another campaign' }];
});
function bring([file]: File[]): void {
  busy.value = true;
  void notices
    .guard(async () => {
      const font = await bringFontFile(file);
      documents.run('campaign', campaign.id, bringFont(font));
      emit('change', font.asset);
    })
    .finally(() => (busy.value = false));
}
const forget = (): void => chosen.value && documents.run('campaign', campaign.id, forgetFont(chosen.value.asset));
</script>

<template>
  <FieldRow label="Font">
    <div class="font">
      <SelectField
        class="spread"
        label="Font"
        :options="options"
        :value="value"
        @change="(font) => emit('change', font)"
      />
      <IconButton
        small
        :icon="mdiPlus"
        label="Bring a font"
        tip="Brings a TTF, OTF or WOFF2 file for this campaign"
        :disabled="busy"
        @click="picker?.open()"
      />
      <IconButton
        v-if="chosen"
        small
        :icon="mdiTrashCanOutline"
        :label="`Take ${chosen.name} off the list`"
        tip="Texts that are set in it keep it"
        @click="forget"
      />
      <FilePick ref="picker" label="Font file" accept=".ttf,.otf,.woff,.woff2" @pick="bring" />
    </div>
  </FieldRow>
</template>

<style scoped>
.font {
  display: flex;
  align-items: center;
  min-width: 0;
}
.spread {
  min-width: 0;
}
</style>
