/** Words that name nothing in Python (The Python Language Reference, 2.3.1). */
export const pythonKeywords: ReadonlySet<string> = new Set(
  'False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield'.split(
    ' ',
  ),
)
