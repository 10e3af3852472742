import { textOf } from '../../text/index.ts';

/** Reads words and numbers of a text file straight from its bytes, without making a text of hundreds of megabytes. */
export class ByteReader {
  at = 0;

  constructor(
    readonly bytes: Uint8Array,
    readonly end = bytes.length,
  ) {}

  get atEnd(): boolean {
    return this.at >= this.end;
  }

  /** Skips blanks, and line ends that a backslash takes back; whether something is left on the line. */
  more(): boolean {
    for (;;) {
      const byte = this.bytes[this.at];
      if (this.at >= this.end || byte === 10 || byte === 13) return false;
      // Whatever else is no character counts as a blank, so that nothing is stood before for ever.
      if (byte <= 32) this.at++;
      else if (byte === 92 && isLineEnd(this.bytes[this.at + 1])) this.at += this.bytes[this.at + 1] === 13 ? 3 : 2;
      else return true;
    }
  }

  nextLine(): void {
    while (this.at < this.end && this.bytes[this.at] !== 10) {
      if (this.bytes[this.at] === 13 && this.bytes[this.at + 1] !== 10) break;
      this.at++;
    }
    this.at++;
  }

  /** The next word of any line; empty at the end of the file. */
  wordAnywhere(): string {
    while (this.at < this.end && this.bytes[this.at] <= 32) this.at++;
    return this.word();
  }

  /** The next word of the line; empty at its end. */
  word(): string {
    if (!this.more()) return '';
    const from = this.at;
    while (this.at < this.end && this.bytes[this.at] > 32) this.at++;
    return textOf(this.bytes.subarray(from, this.at));
  }

  /** What is left of the line, without blanks around it. */
  rest(): string {
    if (!this.more()) return '';
    const from = this.at;
    while (this.at < this.end && !isLineEnd(this.bytes[this.at])) this.at++;
    return textOf(this.bytes.subarray(from, this.at)).trim();
  }

  /** The next number of the line; NaN when there is none. */
  number(): number {
    return this.more() ? this.numberHere() : NaN;
  }

  /** The next number of any line. */
  numberAnywhere(): number {
    while (this.at < this.end && this.bytes[this.at] <= 32) this.at++;
    return this.numberHere();
  }

  /** A whole number where it stands, for indices such as `3/-1/4`; NaN when there is none. */
  integer(): number {
    const { bytes } = this;
    const negative = bytes[this.at] === 45;
    if (negative || bytes[this.at] === 43) this.at++;
    const from = this.at;
    let value = 0;
    while (this.at < this.end && isDigit(bytes[this.at])) value = value * 10 + bytes[this.at++] - 48;
    if (this.at === from) return NaN;
    return negative ? -value : value;
  }

  /** Most numbers are short decimals, read digit by digit; others as the language reads them. */
  private numberHere(): number {
    const { bytes, end } = this;
    const from = this.at;
    const negative = bytes[this.at] === 45;
    if (negative || bytes[this.at] === 43) this.at++;
    let value = 0;
    let digits = 0;
    let scale = 0;
    for (let point = false; this.at < end; this.at++) {
      const byte = bytes[this.at];
      if (isDigit(byte)) {
        value = value * 10 + byte - 48;
        digits++;
        if (point) scale++;
      } else if (byte === 46 && !point) point = true;
      else break;
    }
    const plain = this.at >= end || bytes[this.at] <= 32;
    if (plain && digits > 0 && digits <= 15 && scale <= 22) {
      const read = value / POWERS[scale];
      return negative ? -read : read;
    }
    while (this.at < end && bytes[this.at] > 32) this.at++;
    const word = textOf(bytes.subarray(from, this.at));
    return word === '' ? NaN : Number(word);
  }
}

const POWERS = Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
const isDigit = (byte: number): boolean => byte >= 48 && byte <= 57;
const isLineEnd = (byte: number): boolean => byte === 10 || byte === 13;
