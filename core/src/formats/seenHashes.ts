/** Hashes of texts that were seen: eight bytes each, where a set of texts would keep them all in memory. */
export class SeenHashes {
  /** Open addressing: a hash stands in the first free place from its own on; 0 is free. */
  private places = new Float64Array(1_024);
  private count = 0;

  /** Notes a text. @returns whether it was seen before */
  add(text: string): boolean {
    if (this.count * 2 >= this.places.length) this.grow();
    const hash = hashOf(text);
    const at = placeOf(this.places, hash);
    if (this.places[at] === hash) return true;
    this.places[at] = hash;
    this.count += 1;
    return false;
  }

  private grow(): void {
    const grown = new Float64Array(this.places.length * 2);
    for (const hash of this.places) if (hash !== 0) grown[placeOf(grown, hash)] = hash;
    this.places = grown;
  }
}

/** Where a hash stands, or the free place for it. The number of places is a power of two. */
function placeOf(places: Float64Array, hash: number): number {
  const last = places.length - 1;
  let at = hash % places.length;
  while (places[at] !== 0 && places[at] !== hash) at = (at + 1) & last;
  return at;
}

/** Two 26-bit hashes in one number above 0, so that two texts of a million rarely meet (FNV-1a). */
function hashOf(text: string): number {
  let low = 0x811c9dc5;
  let high = 0x1000193;
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    low = Math.imul(low ^ code, 0x01000193);
    high = Math.imul(high ^ code, 0x85ebca6b);
  }
  return (low & 0x3ffffff) * 0x4000000 + (high & 0x3ffffff) + 1;
}
