/** What every field of a form is told. */
export interface FieldProps {
  /** What is asked for. */
  label: string;
  /** Its id, where something leads to it. */
  id?: string;
  /** Unit of what is typed, after the label. */
  unit?: string;
  /** What is accepted, in few words. */
  hint?: string;
  /** What was wrong; empty: nothing. */
  error?: string;
  /** True where nothing may not be said. */
  required?: boolean;
  /** The label is heard only; what is asked stands elsewhere. */
  quiet?: boolean;
}

/** One of the things that can be chosen. */
export interface Option<T> {
  /** What is kept. */
  value: T;
  /** What is said. */
  label: string;
  /** Why it is not among the choices now, if it is not. */
  disabled?: boolean;
}

/** Texts that say themselves, as options. */
export const optionsOf = <T extends string | number>(values: readonly T[]): Option<T>[] =>
  values.map((value) => ({ value, label: String(value) }));
