import { ref, type Ref } from 'vue';
import type { ModelMade } from '@tender-orbit/core/contract';
import type { ModelReport } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { api, uploadFile } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { companionsOf, MODEL } from './model-kinds.ts';

export interface ImportState {
  name: string;
  /** 0..1 while uploading; 1 while the server reads the model. */
  share: number;
}

/** What the last file that came in turned out to be; said until it is put away. */
export interface Arrival {
  product: string;
  report: ModelReport;
}

const state = ref<ImportState | null>(null);
const arrival = ref<Arrival | null>(null);

/** Brings model files in; one at a time, whichever view asks. */
export function useImport(): {
  state: Ref<ImportState | null>;
  arrival: Ref<Arrival | null>;
  bring: (files: readonly File[]) => Promise<string | null>;
} {
  const campaign = useCampaign();
  const notices = useNotices();

  async function bring(files: readonly File[]): Promise<string | null> {
    if (files.length === 0 || state.value) return null;
    const model = files.find((f) => MODEL.test(f.name)) ?? files[0];
    let made: string | null = null;
    state.value = { name: model.name, share: 0 };
    await notices.guard(async () => {
      if (!MODEL.test(model.name))
        throw new Problem(
          'model/unknown',
          `"${model.name}" is no model that can be read: bring a .glb, .gltf, .obj, .stl, .ply, .usdz or .usda file.`,
          model.name,
        );
      const companions = companionsOf(model, files);
      let sent = 0;
      const send = async (file: File): Promise<string> => {
        const share = (own: number): number => (sent + own) / (companions.length + 1);
        const { hash } = await uploadFile(file, (own) => (state.value = { name: file.name, share: share(own) }));
        sent++;
        return hash;
      };
      const asset = await send(model);
      const resources: Record<string, string> = {};
      for (const file of companions) resources[file.name] = await send(file);
      state.value = { name: model.name, share: 1 };
      const { report, ...stored } = await api<ModelMade>('POST', `/campaigns/${campaign.id}/products`, {
        fileName: model.name,
        asset,
        resources,
      });
      campaign.addProduct(stored);
      arrival.value = { product: stored.id, report };
      notices.done(`${stored.document.name} is in.`);
      made = stored.id;
    });
    state.value = null;
    return made;
  }
  return { state, arrival, bring };
}
