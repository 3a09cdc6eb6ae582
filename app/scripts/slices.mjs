// In which order a file's modules may be run one by one, so that a start is many short tasks instead of one long one and a finger is never kept waiting.
import ts from 'typescript';

/** The places, in a module's list of dependencies, of those that it requires at once, in that order: not in a function that is called later, nor under a condition. */
function requiredAtOnce(code) {
  const source = ts.createSourceFile('module.js', code, ts.ScriptTarget.Latest, false, ts.ScriptKind.JS);
  const factory = source.statements[0].expression.arguments[0];
  const names = factory.parameters.map((p) => p.name.text);
  // `require`, `importDefault`, `importAll`, and the list.
  const [requires, list] = [names.slice(1, 4), names[6]];
  const places = [];
  const walk = (node) => {
    if (ts.isFunctionLike(node) || ts.isIfStatement(node) || ts.isConditionalExpression(node) || ts.isTryStatement(node)) return;
    if (ts.isBinaryExpression(node) && /^(&&|\|\||\?\?)$/.test(ts.tokenToString(node.operatorToken.kind))) return walk(node.left);
    ts.forEachChild(node, walk);
    const [argument] = ts.isCallExpression(node) && requires.includes(node.expression.text) ? node.arguments : [];
    if (argument && ts.isElementAccessExpression(argument) && argument.expression.text === list)
      places.push(Number(argument.argumentExpression.text));
  };
  ts.forEachChild(factory.body, walk);
  return places;
}

/**
 * Ids of modules which, run in this order, run all that `roots` require at once, each after what it requires itself, in the order in which they would be run anyway. Modules that require each other go together
 * (R. Tarjan, Depth-first search and linear graph algorithms, SIAM J. Comput. 1, 1972), and small ones with the next.
 *
 * @param {Map<number, { id: number, code: string, list: (number | null)[] }>} known
 * @param {number[]} roots
 * @param {number} bytes code that a step has at least
 */
export function slicesOf(known, roots, bytes) {
  const index = new Map();
  const low = new Map();
  const stack = [];
  const order = [];
  let gathered = 0;
  const visit = (id) => {
    const module = known.get(id);
    if (!module || index.has(id)) return;
    index.set(id, index.size);
    low.set(id, index.get(id));
    stack.push(id);
    for (const place of requiredAtOnce(module.code)) {
      const next = module.list[place];
      visit(next);
      if (stack.includes(next)) low.set(id, Math.min(low.get(id), low.get(next)));
    }
    gathered += module.code.length;
    if (low.get(id) !== index.get(id)) return;
    stack.splice(stack.indexOf(id));
    if (gathered < bytes) return;
    gathered = 0;
    order.push(id);
  };
  roots.forEach(visit);
  return order;
}
