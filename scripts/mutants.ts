import ts from "typescript";

/** One small fault that can be put into a file. */
export interface Mutant {
  kind: (typeof KINDS)[number];
  line: number;
  /** Start and end of what is replaced, characters. */
  from: number;
  to: number;
  was: string;
  becomes: string;
}

/** What may go wrong: a comparison turned, a factor off by 5 %, the other of least and most, a term left out. */
export const KINDS = ["turned comparison", "factor off by 5 %", "least for most", "dropped term"] as const;

const TURNED: ReadonlyMap<ts.SyntaxKind, string> = new Map([
  [ts.SyntaxKind.LessThanToken, ">"],
  [ts.SyntaxKind.GreaterThanToken, "<"],
  [ts.SyntaxKind.LessThanEqualsToken, ">="],
  [ts.SyntaxKind.GreaterThanEqualsToken, "<="],
]);
const FACTORS: ReadonlySet<ts.SyntaxKind> = new Set([ts.SyntaxKind.AsteriskToken, ts.SyntaxKind.SlashToken]);
const SUMS: ReadonlySet<ts.SyntaxKind> = new Set([ts.SyntaxKind.PlusToken, ts.SyntaxKind.MinusToken]);

/** Every place of a file where one of those faults can be made; texts, types and tolerances of computation are left alone. */
export function mutantsOf(path: string, source: string): Mutant[] {
  const file = ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true);
  const found: Mutant[] = [];
  const add = (kind: Mutant["kind"], node: ts.Node, becomes: string) => {
    const from = node.getStart(file);
    const line = file.getLineAndCharacterOfPosition(from).line + 1;
    found.push({ kind, line, from, to: node.end, was: source.slice(from, node.end), becomes });
  };
  const visit = (node: ts.Node) => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isTemplateExpression(node)) return;
    if (ts.isBinaryExpression(node)) binary(node, add);
    if (ts.isPropertyAccessExpression(node) && node.expression.getText(file) === "Math") {
      if (node.name.text === "min") add("least for most", node.name, "max");
      if (node.name.text === "max") add("least for most", node.name, "min");
    }
    if (ts.isNumericLiteral(node) && isFactor(node)) add("factor off by 5 %", node, String(Number(node.text) * 1.05));
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

function binary(node: ts.BinaryExpression, add: (kind: Mutant["kind"], node: ts.Node, becomes: string) => void) {
  const kind = node.operatorToken.kind;
  const turned = TURNED.get(kind);
  if (turned) add("turned comparison", node.operatorToken, turned);
  // Texts are joined by templates here, so a plus is a sum.
  if (SUMS.has(kind) && !isSmallStep(node.right) && !isText(node.left) && !isText(node.right))
    add("dropped term", node, node.left.getText());
}

const isText = (node: ts.Node) => ts.isStringLiteralLike(node) || ts.isTemplateExpression(node);
/** Counting on or back by one is no term of a sum. */
const isSmallStep = (node: ts.Node) => ts.isNumericLiteral(node) && node.text === "1";

/** A number that scales something or is a constant of its own: no index, no nought, no tolerance below a millionth. */
function isFactor(node: ts.NumericLiteral): boolean {
  if (Math.abs(Number(node.text)) < 1e-6) return false;
  const { parent } = node;
  if (ts.isBinaryExpression(parent)) return FACTORS.has(parent.operatorToken.kind);
  return ts.isVariableDeclaration(parent) && /^[A-Z][A-Z0-9_]+$/.test(parent.name.getText());
}

/** A file with one of its faults in it. */
export function withFault(source: string, { from, to, becomes }: Mutant): string {
  return source.slice(0, from) + becomes + source.slice(to);
}
