import { DOCUMENT_KINDS, type DocumentKind } from '@tender-orbit/core/document';
import type { AppContext } from '../http/index.ts';
import type { DeliveryFormat } from '../promos/index.ts';
import { TABLES } from './repository.ts';

/** Deletes a campaign with its documents, their history, its takes and its delivered files; work on them is given up. */
export async function removeCampaign(
  { db, assets, dispatcher, takeFiles, deliveries }: AppContext,
  id: string,
): Promise<void> {
  const takes = await db.rows<{ id: string }>('SELECT id FROM takes WHERE campaign_id = ?', [id]);
  const files = await db.rows<{ id: string; format: DeliveryFormat }>(
    'SELECT id, format FROM deliveries WHERE campaign_id = ?',
    [id],
  );
  const documents: Array<[DocumentKind, string]> = [['campaign', id]];
  for (const kind of DOCUMENT_KINDS) {
    if (kind === 'campaign') continue;
    const rows = await db.rows<{ id: string }>(`SELECT id FROM ${TABLES[kind]} WHERE campaign_id = ?`, [id]);
    documents.push(...rows.map((row): [DocumentKind, string] => [kind, row.id]));
  }
  // All that belongs to it goes with it; once the rows are gone nobody takes work from them any more.
  await db.run('DELETE FROM campaigns WHERE id = ?', [id]);
  for (const [kind, document] of documents) {
    await db.run('DELETE FROM revisions WHERE kind = ? AND document_id = ?', [kind, document]);
    await assets.setUses(kind, document, {});
  }
  for (const take of takes) {
    dispatcher.drop(take.id);
    await takeFiles.removeTake(take.id);
  }
  for (const file of files) await deliveries.remove(file.id, file.format);
}
