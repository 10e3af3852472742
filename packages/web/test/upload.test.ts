import { expect } from 'chai';
import { createPinia, setActivePinia } from 'pinia';
import { ApiProblem, uploadFile } from '../src/api/index.ts';
import { useSession } from '../src/stores/index.ts';

/** The browser's request object, as far as an upload uses it. */
class Request {
  static last: Request | null = null;
  static answer = { status: 201, response: { hash: 'h', mime: 'image/png', size: 3 } as object };
  upload: { onprogress?: (event: object) => void } = {};
  status = 0;
  response: object = {};
  headers: Record<string, string> = {};
  onload?: () => void;
  onerror?: () => void;
  constructor() {
    Request.last = this;
  }
  open(): void {}
  setRequestHeader(name: string, value: string): void {
    this.headers[name] = value;
  }
  send(): void {
    this.upload.onprogress?.({ lengthComputable: true, loaded: 1, total: 2 });
    Object.assign(this, Request.answer);
    if (this.status === 0) this.onerror?.();
    else this.onload?.();
  }
}

const MEGA = 1024 * 1024;

describe('web: uploads', () => {
  const scope = globalThis as { XMLHttpRequest?: unknown };
  const [realRequest, realFetch] = [scope.XMLHttpRequest, globalThis.fetch];
  before(async () => {
    scope.XMLHttpRequest = Request;
    globalThis.fetch = (async () =>
      Response.json({ person: null, csrfToken: 'token', uploadLimit: 2 * MEGA })) as unknown as typeof fetch;
    setActivePinia(createPinia());
    await useSession().look();
  });
  after(() => {
    scope.XMLHttpRequest = realRequest;
    globalThis.fetch = realFetch;
  });
  beforeEach(() => {
    Request.last = null;
    Request.answer = { status: 201, response: { hash: 'h', mime: 'image/png', size: 3 } };
  });

  async function problemOf(file: Blob): Promise<ApiProblem> {
    try {
      await uploadFile(file, () => undefined);
    } catch (error) {
      return error as ApiProblem;
    }
    throw new Error('The upload was taken.');
  }

  it('send the token and say how far they are', async () => {
    const shares: number[] = [];
    const asset = await uploadFile(new Blob(['abc']), (share) => shares.push(share));
    expect(asset).include({ hash: 'h', size: 3 });
    expect(shares).deep.equal([0.5]);
    expect(Request.last!.headers['x-csrf-token']).equal('token');
  });

  it('beyond what this server takes never start, and the limit is named', async () => {
    const problem = await problemOf(new Blob([new Uint8Array(2 * MEGA + 1)]));
    expect(problem).instanceOf(ApiProblem);
    expect(problem.message).contain('2 MB');
    expect(Request.last).equal(null);
    expect((await uploadFile(new Blob([new Uint8Array(2 * MEGA)]), () => undefined)).hash).equal('h');
  });

  it('pass on what the server says, and that it cannot be reached', async () => {
    Request.answer = { status: 415, response: { code: 'asset/unknown', title: 'This is no picture.' } };
    expect((await problemOf(new Blob(['abc']))).message).equal('This is no picture.');
    Request.answer = { status: 0, response: {} };
    expect((await problemOf(new Blob(['abc']))).message).contain('cannot be reached');
  });
});
