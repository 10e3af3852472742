import { Router, type Request } from 'express';
import { nameRevisionBody, saveBody, type SavedRevision } from '@tender-orbit/core/contract';
import { DOCUMENT_KINDS, type DocumentKind } from '@tender-orbit/core/document';
import { notFound, personOf } from '../http/index.ts';
import type { DocumentRepository } from './repository.ts';

function kindOf(req: Request<{ kind: string }>): DocumentKind {
  const kind = DOCUMENT_KINDS.find((k) => k === req.params.kind);
  if (!kind) throw notFound('kind of document');
  return kind;
}

type OneDocument = Request<{ kind: string; id: string }>;
type OneRevision = Request<{ kind: string; id: string; revision: string }>;

export function documentRoutes({ documents }: { documents: DocumentRepository }): Router {
  const router = Router();

  router.get('/documents/:kind/:id', async (req: OneDocument, res) => {
    res.json(await documents.get(kindOf(req), req.params.id, personOf(req)));
  });

  router.put('/documents/:kind/:id', async (req: OneDocument, res) => {
    const { expectedRevision, label = 'Edit', document } = await saveBody.validate(req.body ?? {});
    const saved = await documents.save(kindOf(req), req.params.id, expectedRevision, document, label, personOf(req));
    res.json({ id: saved.id, revision: saved.revision } satisfies SavedRevision);
  });

  router.delete('/documents/:kind/:id', async (req: OneDocument, res) => {
    const kind = kindOf(req);
    // A campaign is more than its document: it has a route of its own.
    if (kind === 'campaign') throw notFound('document of this kind to delete');
    await documents.remove(kind, req.params.id, personOf(req));
    res.status(204).end();
  });

  router.get('/documents/:kind/:id/revisions', async (req: OneDocument, res) => {
    await documents.get(kindOf(req), req.params.id, personOf(req));
    res.json(await documents.revisions(kindOf(req), req.params.id));
  });

  router.put('/documents/:kind/:id/revisions/:revision/name', async (req: OneRevision, res) => {
    const { name } = await nameRevisionBody.validate(req.body ?? {});
    await documents.get(kindOf(req), req.params.id, personOf(req));
    await documents.nameRevision(kindOf(req), req.params.id, Number(req.params.revision) || 0, name);
    res.status(204).end();
  });

  router.post('/documents/:kind/:id/revisions/:revision/restore', async (req: OneRevision, res) => {
    res.json(await documents.restore(kindOf(req), req.params.id, Number(req.params.revision) || 0, personOf(req)));
  });
  return router;
}
