import { ref, type Ref } from 'vue';
import { Problem } from '@tender-orbit/core/problem';
import { api, uploadFile, type StoredDocument } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { FOREIGN } from './model-kinds.ts';
import { resourcesOf } from './gltf-resources.ts';

const MODEL = /\.(glb|gltf|obj|stl|ply)$/i;

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
    const brought = files.find((f) => MODEL.test(f.name)) ?? files[0];
    let model = brought;
    let made: string | null = null;
    state.value = { name: model.name, share: 0 };
    await notices.guard(async () => {
      if (!MODEL.test(model.name))
        throw new Problem(
          'model/unknown',
          `"${model.name}" is no model that can be read: bring a .glb, .gltf, .obj, .stl or .ply file.`,
          model.name,
        );
      const notes: string[] = [];
      if (FOREIGN.test(model.name)) {
        const { toGlb } = await import('./foreign-models.ts');
        const converted = await toGlb(model, files);
        notes.push(...converted.notes);
        model = new File([converted.glb as Uint8Array<ArrayBuffer>], brought.name.replace(FOREIGN, '.glb'));
      }
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
      notices.done([`${stored.document.name} is in: ${stored.document.parts.length} parts.`, ...notes].join(' '));
      made = stored.id;
    });
    state.value = null;
    return made;
  }
  return { state, bring };
}
