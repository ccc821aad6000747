/** Order-sensitive 53-bit hash of texts and of the bits of numbers, to compare whole runs between engines. */
export class RunHash {
  private a = 0x9e3779b9;
  private b = 0x85ebca6b;
  private readonly bits = new DataView(new ArrayBuffer(8));

  private word(w: number): void {
    this.a = Math.imul(this.a ^ w, 0x85ebca77) ^ (this.b >>> 13);
    this.b = Math.imul(this.b ^ w, 0xc2b2ae3d) ^ (this.a >>> 16);
  }

  text(s: string): void {
    for (let i = 0; i < s.length; i++) this.word(s.charCodeAt(i));
    this.word(s.length);
  }

  /** All 64 bits count: NaN, −0 and 0 are told apart. */
  numbers(list: Float64Array): void {
    for (const x of list) {
      this.bits.setFloat64(0, x);
      this.word(this.bits.getInt32(0));
      this.word(this.bits.getInt32(4));
    }
  }

  digest(): string {
    return (this.a >>> 0).toString(16).padStart(8, '0') + (this.b >>> 0).toString(16).padStart(8, '0');
  }
}
