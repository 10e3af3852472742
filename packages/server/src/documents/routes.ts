import { Router, type Request } from 'express';
import * as yup from 'yup';
import { DOCUMENT_KINDS, type DocumentKind } from '@tender-orbit/core/document';
import { notFound, personOf, type AppContext } from '../http/index.ts';
import { DocumentRepository } from './repository.ts';

const saveBody = yup.object({
  expectedRevision: yup.number().strict().integer().required('The expected revision is missing.'),
  label: yup.string().strict().max(200),
  document: yup.mixed().required('The document is missing.'),
});

function kindOf(req: Request<{ kind: string }>): DocumentKind {
  const kind = DOCUMENT_KINDS.find((k) => k === req.params.kind);
  if (!kind) throw notFound('kind of document');
  return kind;
}

export function documentRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);

  router.get('/documents/:kind/:id', async (req: Request<{ kind: string; id: string }>, res) => {
    res.json(await documents.get(kindOf(req), req.params.id, personOf(req)));
  });

  router.put('/documents/:kind/:id', async (req: Request<{ kind: string; id: string }>, res) => {
    const { expectedRevision, label = 'Edit', document } = await saveBody.validate(req.body ?? {});
    const saved = await documents.save(kindOf(req), req.params.id, expectedRevision, document, label, personOf(req));
    res.json({ id: saved.id, revision: saved.revision });
  });

  router.delete('/documents/:kind/:id', async (req: Request<{ kind: string; id: string }>, res) => {
    const kind = kindOf(req);
    // A campaign is more than its document: it has a route of its own.
    if (kind === 'campaign') throw notFound('document of this kind to delete');
    await documents.remove(kind, req.params.id, personOf(req));
    res.status(204).end();
  });

  router.get('/documents/:kind/:id/revisions', async (req: Request<{ kind: string; id: string }>, res) => {
    await documents.get(kindOf(req), req.params.id, personOf(req));
    res.json(await documents.revisions(kindOf(req), req.params.id));
  });

  router.post(
    '/documents/:kind/:id/revisions/:revision/restore',
    async (req: Request<{ kind: string; id: string; revision: string }>, res) => {
      res.json(await documents.restore(kindOf(req), req.params.id, Number(req.params.revision) || 0, personOf(req)));
    },
  );
  return router;
}
