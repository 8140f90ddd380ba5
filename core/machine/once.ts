/**
 * What is made of an object, made once however many ask. For objects that are never changed in place: documents, parts,
 * figures, circuits. What was made goes when the object goes.
 */
export function oncePer<K extends object, T>(make: (key: K) => T): (key: K) => T {
  const known = new WeakMap<K, { made: T }>();
  return (key) => {
    const before = known.get(key);
    if (before) return before.made;
    const made = make(key);
    known.set(key, { made });
    return made;
  };
}
