import ts from 'typescript';

/** Columns by table or view. */
export type Tables = ReadonlyMap<string, ReadonlySet<string>>;

/** Words that may stand behind a table's name and are no alias of it. */
const NO_ALIAS = new Set(
  'where on using left right full inner cross join order group limit set values select as union returning for having window natural and or lateral'.split(
    ' ',
  ),
);

/** The SQL of a source: every template tagged `sql`, what is put into it as a blank. */
export function sqlOf(source: string, name = 'source.ts'): string[] {
  const found: string[] = [];
  const walk = (node: ts.Node): void => {
    if (ts.isTaggedTemplateExpression(node) && node.tag.getText().replace(/<.*$/s, '') === 'sql')
      found.push(
        ts.isNoSubstitutionTemplateLiteral(node.template)
          ? node.template.text
          : [node.template.head.text, ...node.template.templateSpans.map(({ literal }) => literal.text)].join(' $ '),
      );
    ts.forEachChild(node, walk);
  };
  walk(ts.createSourceFile(name, source, ts.ScriptTarget.Latest, true));
  return found;
}

/** Which tables an alias may stand for in a statement: the same letter may serve several in its parts. */
function aliasesOf(text: string, tables: Tables): Map<string, string[]> {
  const aliases = new Map<string, string[]>();
  // What a statement names itself (a part of it in brackets, a `with`) is no table, whatever it is called.
  const own = new Set(
    [
      ...text.matchAll(
        /(?:\)\s*(?:as\s+)?|\bwith\s+(?:recursive\s+)?|,\s*)([a-z_]+)\s*(?=\(|as\s*\(|on\b|where\b|join\b)/gi,
      ),
    ].map(([, name]) => name!.toLowerCase()),
  );
  for (const [, table, alias] of text.matchAll(
    /(?:\b(?:from|join|update|into)|,)\s+([a-z_]+)(?:\s+(?:as\s+)?([a-z_]+))?/gi,
  )) {
    const of = table!.toLowerCase();
    if (!tables.has(of)) continue;
    const as = alias && !NO_ALIAS.has(alias.toLowerCase()) ? alias.toLowerCase() : of;
    if (!own.has(as)) aliases.set(as, [...(aliases.get(as) ?? []), of]);
  }
  return aliases;
}

/** Every `alias.column` of a statement whose alias is a table: how many there are, and which of them no table has. */
export function columnsIn(text: string, tables: Tables): { asked: number; unknown: string[] } {
  const plain = text.replace(/--.*$/gm, ' ').replace(/'(?:[^']|'')*'/g, "''");
  const aliases = aliasesOf(plain, tables);
  const unknown: string[] = [];
  let asked = 0;
  for (const [, alias, column] of plain.matchAll(/(?<![.\w"])([a-z_]+)\.([a-z_]+)(?![\w(])/g)) {
    const of = aliases.get(alias!);
    if (!of) continue;
    asked += 1;
    if (!of.some((table) => tables.get(table)!.has(column!))) unknown.push(`${of.join(' or ')}.${column}`);
  }
  return { asked, unknown };
}
