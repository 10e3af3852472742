/** What every refused input or failed computation is reported as, from core to the interface. */
export interface ProblemDetails {
  /** Stable machine-readable code, e.g. `model/no-triangles`. */
  code: string;
  /** One sentence for a person: what happened, to what, and what to do. */
  message: string;
  /** The thing concerned: a file name, a field label, an id. */
  thing?: string;
}

/**
 * An error that a person can act on. Everything else that is thrown is a defect.
 *
 * @example throw new Problem('time/bad-rate', 'The frame rate 0/1 is not above zero: choose a usual rate.', 'Frame rate');
 */
export class Problem extends Error implements ProblemDetails {
  readonly code: string;
  readonly thing?: string;

  constructor(code: string, message: string, thing?: string) {
    super(message);
    this.name = 'Problem';
    this.code = code;
    this.thing = thing;
  }
}
