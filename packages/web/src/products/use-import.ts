import { ref, type Ref } from 'vue';
import { Problem } from '@tender-orbit/core/problem';
import { api, uploadFile, type StoredDocument } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { resourcesOf } from './gltf-resources.ts';

export interface ImportState {
  name: string;
  /** 0..1 while uploading; 1 while the server reads the model. */
  share: number;
}

const state = ref<ImportState | null>(null);

/** Brings model files in; one at a time, whichever view asks. */
export function useImport(): {
  state: Ref<ImportState | null>;
  bring: (files: readonly File[]) => Promise<string | null>;
} {
  const campaign = useCampaign();
  const notices = useNotices();

  async function bring(files: readonly File[]): Promise<string | null> {
    if (files.length === 0 || state.value) return null;
    const model = files.find((f) => /\.(glb|gltf)$/i.test(f.name)) ?? files[0];
    let made: string | null = null;
    state.value = { name: model.name, share: 0 };
    await notices.guard(async () => {
      if (!/\.(glb|gltf)$/i.test(model.name))
        throw new Problem(
          'model/not-gltf',
          `"${model.name}" is not a glTF model: bring a .glb or .gltf file.`,
          model.name,
        );
      const resources = /\.gltf$/i.test(model.name) ? resourcesOf(await model.text(), files) : new Map<string, File>();
      const all = resources.size + 1;
      let sent = 0;
      const send = async (file: File): Promise<string> => {
        const { hash } = await uploadFile(
          file,
          (share) => (state.value = { name: file.name, share: (sent + share) / all }),
        );
        sent++;
        return hash;
      };
      const asset = await send(model);
      const hashes: Record<string, string> = {};
      for (const [uri, file] of resources) hashes[uri] = await send(file);
      state.value = { name: model.name, share: 1 };
      const stored = await api<StoredDocument<'product'>>('POST', `/campaigns/${campaign.id}/products`, {
        fileName: model.name,
        asset,
        resources: hashes,
      });
      campaign.addProduct(stored);
      notices.done(`${stored.document.name} is in: ${stored.document.parts.length} parts.`);
      made = stored.id;
    });
    state.value = null;
    return made;
  }
  return { state, bring };
}
