import type { DeliveryFormat } from '@tender-orbit/core/contract';
import { DOCUMENT_KINDS, type DocumentKind } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { TABLES, type DocumentRepository } from '../documents/index.ts';
import type { JobDispatcher } from '../jobs/index.ts';
import type { DeliveryFiles } from '../promos/index.ts';
import type { FrameStore } from '../takes/index.ts';

export interface Removable {
  db: Database;
  assets: AssetStore;
  documents: DocumentRepository;
  dispatcher: JobDispatcher;
  frames: FrameStore;
  deliveryFiles: DeliveryFiles;
}

/** Deletes a campaign with its documents, their history, its takes and its delivered files; work on them is given up. */
export async function removeCampaign(
  { db, assets, documents, dispatcher, frames, deliveryFiles }: Removable,
  id: string,
): Promise<void> {
  const takes = await db.rows<{ id: string }>('SELECT id FROM takes WHERE campaign_id = ?', [id]);
  const runs = await db.rows<{ id: string }>('SELECT id FROM simulation_runs WHERE campaign_id = ?', [id]);
  const files = await db.rows<{ id: string; format: DeliveryFormat }>(
    'SELECT id, format FROM deliveries WHERE campaign_id = ?',
    [id],
  );
  const all: Array<[DocumentKind, string]> = [['campaign', id]];
  for (const kind of DOCUMENT_KINDS) {
    if (kind === 'campaign') continue;
    const rows = await db.rows<{ id: string }>(`SELECT id FROM ${TABLES[kind]} WHERE campaign_id = ?`, [id]);
    all.push(...rows.map((row): [DocumentKind, string] => [kind, row.id]));
  }
  const subjects = await db.rows<{ subject: string }>(
    'SELECT DISTINCT subject_id AS subject FROM jobs WHERE campaign_id = ?',
    [id],
  );
  await db.transaction(async (statements) => {
    // All that belongs to it goes with it, its jobs too: nobody takes work from them any more.
    await statements.run('DELETE FROM campaigns WHERE id = ?', [id]);
    for (const [kind, document] of all) await documents.forget(statements, kind, document);
    for (const take of takes) await assets.clearUses(statements, 'take', take.id);
    for (const run of runs) await assets.clearUses(statements, 'simulation', run.id);
    for (const file of files) await assets.clearUses(statements, 'delivery', file.id);
  });
  for (const { subject } of subjects) await dispatcher.drop(subject);
  for (const take of takes) await frames.removeTake(take.id);
  for (const file of files) await deliveryFiles.remove(file.id, file.format);
}
