// ESLint rule: a plain object is not read by a word of the user's. `record[name]` finds what every object inherits
// (`constructor`, `__proto__`); `ownValue(record, name)` or a Map does not. Objects of our own making with literal keys are free.
import ts from 'typescript'

const stringIndexed = (checker, type) => {
  const apparent = checker.getNonNullableType(type)
  const types = apparent.isUnion() ? apparent.types : [apparent]
  return types.some(
    (one) =>
      !checker.isArrayType(one) &&
      !checker.isTupleType(one) &&
      checker.getIndexInfoOfType(one, ts.IndexKind.String) !== undefined,
  )
}
const anyWord = (type) => (type.isUnion() ? type.types.some(anyWord) : (type.flags & ts.TypeFlags.String) !== 0)

export default {
  meta: {
    type: 'problem',
    schema: [],
    fixable: 'code',
    messages: { lookup: 'Use ownValue(record, word) or a Map: this word may be “constructor” or “__proto__”.' },
  },
  create: (context) => {
    const services = context.sourceCode.parserServices
    const checker = services.program.getTypeChecker()
    const typeOf = (node) => checker.getTypeAtLocation(services.esTreeNodeToTSNodeMap.get(node))
    return {
      MemberExpression: (node) => {
        if (!node.computed || node.property.type === 'Literal') return
        if (node.parent.type === 'UnaryExpression' && node.parent.operator === 'delete') return
        const source = (part) => context.sourceCode.getText(part)
        if (source(node.object) === 'process.env') return
        const written = node.parent.type === 'AssignmentExpression' && node.parent.left === node
        if (anyWord(typeOf(node.property)) && stringIndexed(checker, typeOf(node.object)))
          context.report({
            node,
            messageId: 'lookup',
            fix: written
              ? undefined
              : (fixer) => fixer.replaceText(node, `ownValue(${source(node.object)}, ${source(node.property)})`),
          })
      },
    }
  },
}
