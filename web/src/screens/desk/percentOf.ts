/** A probability in whole percent; never said to be wholly sure. @example percentOf(0.9987) // 99 */
export function percentOf(sureness: number): number {
  return Math.min(99, Math.floor(sureness * 100));
}
