import { ApiProblem, csrfHeaders, problemFrom, UNREACHABLE } from './client.ts';
import type { UploadedAsset } from './types.ts';

/** Bytes of the largest file the server takes; checked here too, so that a hopeless upload never starts. */
let limit = Infinity;

export function setUploadLimit(bytes: number): void {
  limit = bytes;
}

/** Sends a file with progress (0..1). Fetch reports no upload progress, so this is the older request object. */
export function uploadFile(file: Blob, onProgress: (share: number) => void): Promise<UploadedAsset> {
  if (file.size > limit) {
    return Promise.reject(
      new ApiProblem(
        413,
        'asset/too-large',
        `The file is larger than ${Math.floor(limit / 1024 / 1024)} MB, the most that is taken: make it smaller.`,
      ),
    );
  }
  return new Promise((done, fail) => {
    const request = new XMLHttpRequest();
    request.open('POST', '/api/assets');
    request.responseType = 'json';
    for (const [name, value] of Object.entries(csrfHeaders())) request.setRequestHeader(name, value);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => onProgress(event.lengthComputable ? event.loaded / event.total : 0);
    request.onload = () => {
      if (request.status === 201) done(request.response as UploadedAsset);
      else fail(problemFrom(request.status, (request.response as Record<string, unknown>) ?? {}));
    };
    request.onerror = () =>
      fail(new ApiProblem(0, UNREACHABLE, 'The upload broke off: the server cannot be reached. Try again.'));
    request.send(file);
  });
}
