import { isObject } from "./same-value";
import type { Machine } from "./schema";

/** Lists whose elements have ids. */
export const LISTS = ["parts", "wires", "modes", "signals", "decisions"] as const;
/** Lists whose elements have ids. */
export type ListName = (typeof LISTS)[number];
/** An element of such a list. */
export type Element = { readonly id: string } & Readonly<Record<string, unknown>>;

/** Whether a field of a machine is such a list. */
export const isList = (name: string): name is ListName => (LISTS as readonly string[]).includes(name);
/** A list of a machine; one that is not there is empty. */
export const listOf = (machine: Machine, name: ListName) => (machine[name] ?? []) as unknown as readonly Element[];

/** A machine while changes go into it: what is not touched stays the very object it was. */
export class Draft {
  private readonly top: Record<string, unknown>;
  private readonly lists = new Map<ListName, { items: Element[]; at: Map<string, number> | null }>();
  private readonly own = new Set<unknown>();
  constructor(private readonly start: Machine) {
    this.top = { ...start };
  }

  list(name: ListName) {
    const known = this.lists.get(name);
    if (known) return known;
    const made = { items: [...listOf(this.start, name)], at: null };
    this.lists.set(name, made);
    return made;
  }

  private indexOf(name: ListName, id: string): number {
    const list = this.list(name);
    list.at ??= new Map(list.items.map((each, i) => [each.id, i]));
    return list.at.get(id) ?? -1;
  }

  element(name: ListName, id: string): Element | undefined {
    return this.list(name).items[this.indexOf(name, id)];
  }

  put(name: ListName, element: Element, behind: string | null | undefined): void {
    const list = this.list(name);
    const at = behind === null ? 0 : behind === undefined ? list.items.length : this.indexOf(name, behind) + 1 || list.items.length;
    list.items.splice(at, 0, element);
    list.at = null;
  }

  take(name: ListName, id: string): void {
    const list = this.list(name);
    list.items = list.items.filter((each) => each.id !== id);
    list.at = null;
  }

  replace(name: ListName, id: string, element: Element): void {
    this.list(name).items[this.indexOf(name, id)] = element;
  }

  order(name: ListName, wanted: readonly string[]): void {
    const list = this.list(name);
    const places = new Map(wanted.map((id, i) => [id, i]));
    const sorted = list.items.filter(({ id }) => places.has(id)).sort((a, b) => (places.get(a.id) ?? 0) - (places.get(b.id) ?? 0));
    list.items = list.items.map((each) => (places.has(each.id) ? (sorted.shift() as Element) : each));
    list.at = null;
  }

  /** The object that holds a field, as it is; undefined where there is none. */
  holder(path: readonly string[]): Readonly<Record<string, unknown>> | undefined {
    const [name = "", id = ""] = path;
    const inList = isList(name);
    let at: unknown = inList ? this.element(name, id) : this.top;
    for (const key of path.slice(inList ? 2 : 0, -1)) at = isObject(at) ? at[key] : undefined;
    return isObject(at) ? at : undefined;
  }

  set(path: readonly string[], value: unknown): void {
    const [name = "", id = ""] = path;
    let at: Record<string, unknown> = this.top;
    if (isList(name)) {
      const items = this.list(name).items;
      const index = this.indexOf(name, id);
      at = this.mine(items[index]);
      items[index] = at as unknown as Element;
    }
    for (const key of path.slice(isList(name) ? 2 : 0, -1)) {
      const inner = this.mine(at[key]);
      at[key] = inner;
      at = inner;
    }
    const last = path[path.length - 1] as string;
    if (value === undefined) delete at[last];
    else at[last] = value;
  }

  private mine(value: unknown): Record<string, unknown> {
    if (this.own.has(value)) return value as Record<string, unknown>;
    const copy = { ...(value as Record<string, unknown>) };
    this.own.add(copy);
    return copy;
  }

  done(): Machine {
    for (const [name, { items }] of this.lists) {
      const before = listOf(this.start, name);
      if (items.length === before.length && items.every((each, i) => each === before[i])) continue;
      // An empty list of links or decisions is written as none.
      if ((name === "signals" || name === "decisions") && items.length === 0) delete this.top[name];
      else this.top[name] = items;
    }
    const start = this.start as unknown as Readonly<Record<string, unknown>>;
    const keys = new Set([...Object.keys(start), ...Object.keys(this.top)]);
    return [...keys].every((key) => start[key] === this.top[key]) ? this.start : (this.top as unknown as Machine);
  }
}
