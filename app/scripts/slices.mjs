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
 * Ids of modules which, run in this order before `roots`, leave hardly anything to do for those and change nothing of the order in which modules are run. Modules that require each other go together
 * (R. Tarjan, Depth-first search and linear graph algorithms, SIAM J. Comput. 1, 1972); of small ones only the last is named where it runs the others in the same order.
 *
 * @param {Map<number, { id: number, code: string, list: (number | null)[] }>} known
 * @param {number[]} roots
 * @param {number} bytes code that a step has at least
 * @throws where modules would be run in another order
 */
export function slicesOf(known, roots, bytes) {
  const needs = new Map();
  const needsOf = (id) => {
    if (!needs.has(id)) needs.set(id, requiredAtOnce(known.get(id).code).map((place) => known.get(id).list[place])); // prettier-ignore
    return needs.get(id).filter((next) => known.has(next));
  };
  const index = new Map();
  const low = new Map();
  const stack = [];
  const order = [];
  const visit = (id) => {
    if (index.has(id)) return;
    index.set(id, index.size);
    low.set(id, index.get(id));
    stack.push(id);
    for (const next of needsOf(id)) {
      visit(next);
      if (stack.includes(next)) low.set(id, Math.min(low.get(id), low.get(next)));
    }
    if (low.get(id) !== index.get(id)) return;
    stack.splice(stack.indexOf(id));
    if (!roots.includes(id)) order.push(id);
  };
  roots.forEach(visit);
  /** What some modules run, in which order, where `begun` have been run before. */
  const ran = (starts, begun = new Set()) => {
    const ended = [];
    const runs = (id) => {
      if (begun.has(id)) return;
      begun.add(id);
      needsOf(id).forEach(runs);
      if (!roots.includes(id)) ended.push(id);
    };
    starts.forEach(runs);
    return ended;
  };
  // Of what the last of some small ones runs anyway, in the same order, only that is named.
  const named = [];
  const begun = new Set();
  let few = [];
  for (const id of order) {
    few.push(id);
    const size = few.reduce((sum, one) => sum + known.get(one).code.length, 0);
    if (size < bytes && id !== order.at(-1)) continue;
    const all = ran(few, new Set(begun)).join();
    named.push(...(ran([id], new Set(begun)).join() === all ? [id] : few));
    ran(few, begun);
    few = [];
  }
  const [whole, sliced] = [ran(roots), ran([...named, ...roots])];
  const off = whole.findIndex((id, i) => sliced[i] !== id);
  if (off >= 0) throw new Error(`in slices module ${sliced[off]} would be run before ${whole[off]}`);
  return named;
}
