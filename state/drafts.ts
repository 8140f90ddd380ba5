import type { Journal } from "./journal";
import type { Workbench } from "./workbench";

/** A field whose text was not left yet. */
export interface OpenField {
  /** What people call it. */
  readonly name: string;
  readonly text: string;
  /** Saves the text as leaving the field would, or says why not. */
  readonly commit: () => { ok: boolean };
}

/** The texts that stand in fields nobody has left yet: kept like edits, and made edits when the page is closed. */
export class Drafts {
  private readonly fields = new Map<string, OpenField>();
  private readonly late = new Map<string, ReturnType<typeof setTimeout>>();

  constructor(
    private readonly store: Workbench,
    private readonly journal: () => Journal,
  ) {}

  /** The text of a field changed. It is kept right after the screen has shown it. */
  note(key: string, field: OpenField): void {
    this.fields.set(key, field);
    clearTimeout(this.late.get(key));
    this.late.set(
      key,
      setTimeout(() => this.keep(key), 0),
    );
  }

  /** The field was left, or its text given up. */
  left(key: string): void {
    clearTimeout(this.late.get(key));
    this.late.delete(key);
    if (this.fields.delete(key)) this.journal().draft(this.store.getState().id, key, null);
  }

  /** The field went from the screen with a text that does not fit: it is said, so that nobody takes it for saved. */
  gone(key: string): void {
    const field = this.fields.get(key);
    this.left(key);
    if (field) this.store.setState({ notice: { kind: "unfit", field: field.name, text: field.text } });
  }

  /** The page goes: what fits becomes an edit, what does not is kept as the text it is. */
  flush(): void {
    for (const [key, { commit }] of [...this.fields]) {
      if (commit().ok) this.left(key);
      else this.keep(key);
    }
  }

  private keep(key: string): void {
    this.late.delete(key);
    const field = this.fields.get(key);
    if (!field) return;
    const { id, revision, rehearse } = this.store.getState();
    this.journal().draft(id, key, { field: field.name, text: field.text, base: revision, edit: rehearse(field.commit) });
  }
}
