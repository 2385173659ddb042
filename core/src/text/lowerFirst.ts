/** A name inside a sentence. @example lowerFirst('Invoice 1042') // 'invoice 1042' */
export function lowerFirst(name: string): string {
  return name.charAt(0).toLowerCase() + name.slice(1);
}
