/** Appends to the list that a map holds under a key. Copying the list each time would take a long one's square. */
export function appendToList<K, V>(lists: Map<K, V[]>, key: K, value: V): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
