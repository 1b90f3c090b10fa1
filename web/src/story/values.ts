export type AnyValue = string | number | boolean | null | { readonly column: string } | { readonly parameter: string }
