import ts from 'typescript';

/** One change of a source: what stands from `start` to `end` becomes `text`. */
export interface Mutant {
  file: string;
  line: number;
  start: number;
  end: number;
  before: string;
  text: string;
}

/** What becomes of an operator. */
const SWAPS: Readonly<Record<string, string>> = {
  ...{ '<': '<=', '<=': '<', '>': '>=', '>=': '>', '===': '!==', '!==': '===' },
  ...{ '+': '-', '-': '+', '*': '/', '/': '*', '&&': '||', '||': '&&' },
};

/** Whether a number is only said: a name, a named limit or time, or one of a schema. To test it would be to say it again. */
function isOnlySaid(number: ts.NumericLiteral): boolean {
  if (ts.isPropertyAssignment(number.parent) && number.parent.name === number) return true;
  for (let node: ts.Node = number; !ts.isBlock(node) && !ts.isSourceFile(node); node = node.parent) {
    if (ts.isVariableDeclaration(node)) return /^[A-Z][A-Z\d_]*$/u.test(node.name.getText());
    if (ts.isPropertyAssignment(node) && /^(?:max|min|mode)/u.test(node.name.getText())) return true;
  }
  return false;
}

/** Whether a comparison ends a loop. */
const endsLoop = (node: ts.BinaryExpression): boolean =>
  node.operatorToken.kind === ts.SyntaxKind.LessThanToken &&
  ts.isForStatement(node.parent) &&
  node.parent.condition === node;

/** What a part of an expression becomes, and the whole expression, which is worked out with the one or the other. */
interface Change {
  part: ts.Node;
  text: string;
  whole: ts.Node;
}

/** What a node may be changed to; nothing where it is left as it is. */
function changeOf(node: ts.Node): Change | undefined {
  const replaced = (part: ts.Node, text: string): Change => ({ part, text, whole: part });
  if (ts.isBinaryExpression(node)) {
    // One turn more over a list finds nothing, which nobody could notice: it is one less.
    if (endsLoop(node)) return { part: node.right, text: `(${node.right.getText()}) - 1`, whole: node };
    const text = SWAPS[node.operatorToken.getText()];
    const isText = [node.left, node.right].some(
      (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
    );
    return text === undefined || isText ? undefined : { part: node.operatorToken, text, whole: node };
  }
  if (ts.isNumericLiteral(node))
    return isOnlySaid(node) ? undefined : replaced(node, String(Number(node.text) + 1));
  if (node.kind === ts.SyntaxKind.TrueKeyword) return replaced(node, 'false');
  if (node.kind === ts.SyntaxKind.FalseKeyword) return replaced(node, 'true');
  if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
    return replaced(node, `(${node.operand.getText()})`);
  if (ts.isIfStatement(node)) return replaced(node.expression, 'false');
  if (ts.isConditionalExpression(node)) return replaced(node.condition, 'false');
  return undefined;
}

const parsed = (file: string, text: string): ts.SourceFile =>
  ts.createSourceFile(file, text, ts.ScriptTarget.ES2023, true);

/** Nodes in which nothing is changed. */
const isLeft = (node: ts.Node): boolean =>
  ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node);

/** Every change that a source allows. */
export function mutantsOf(file: string, text: string): Mutant[] {
  const source = parsed(file, text);
  const found: Mutant[] = [];
  const visit = (node: ts.Node): void => {
    if (isLeft(node)) return;
    const change = changeOf(node);
    if (change) {
      const [start, end] = [change.part.getStart(), change.part.getEnd()];
      const { line } = source.getLineAndCharacterOfPosition(start);
      found.push({ file, line: line + 1, start, end, before: text.slice(start, end), text: change.text });
    }
    node.forEachChild(visit);
  };
  visit(source);
  return found;
}

/** A map that is made empty, and kept for as long as the module is. */
const isCache = (node: ts.Node): node is ts.NewExpression =>
  ts.isNewExpression(node) &&
  (node.expression.getText() === 'WeakMap' ||
    (node.expression.getText() === 'Map' &&
      node.arguments?.length === 0 &&
      ts.isVariableDeclaration(node.parent) &&
      ts.isSourceFile(node.parent.parent.parent.parent)));

/**
 * A source in which changes can be switched on while it runs: globalThis.mutants.isOn(id) says which one is. Its caches
 * forget what they hold when another is.
 */
export function switched(file: string, text: string, ids: ReadonlyMap<Mutant, number>): string {
  const wanted = new Map([...ids].map(([mutant, id]) => [`${String(mutant.start)} ${mutant.text}`, id]));
  const changes = new Map<ts.Node, Change[]>();
  const source = parsed(file, text);
  /** What stands from a node's start to its end, with what its children became. */
  const withChildren = (node: ts.Node): string => {
    let [written, place] = ['', node.getStart()];
    const children: ts.Node[] = [];
    node.forEachChild((child) => {
      children.push(child);
    });
    for (const child of children.sort((a, b) => a.getStart() - b.getStart())) {
      if (child.getStart() < place) continue;
      written += text.slice(place, child.getStart()) + visited(child);
      place = child.getEnd();
    }
    return written + text.slice(place, node.getEnd());
  };
  const visited = (node: ts.Node): string => {
    if (isLeft(node)) return node.getText();
    if (isCache(node)) return `new globalThis.mutants.${node.expression.getText()}()`;
    const change = changeOf(node);
    if (change) changes.set(change.whole, [...(changes.get(change.whole) ?? []), change]);
    let written = withChildren(node);
    for (const { part, text: becomes } of changes.get(node) ?? []) {
      const id = wanted.get(`${String(part.getStart())} ${becomes}`);
      if (id === undefined) continue;
      const changed =
        text.slice(node.getStart(), part.getStart()) + becomes + text.slice(part.getEnd(), node.getEnd());
      written = `(globalThis.mutants.isOn(${String(id)}) ? (${changed}) : (${written}))`;
    }
    return written;
  };
  return text.slice(0, source.getStart()) + visited(source);
}
