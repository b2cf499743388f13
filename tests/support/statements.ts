import { readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import pg from 'pg';
import ts from 'typescript';

/** A statement of the code, with the type that its rows are declared to have. */
export interface Statement {
  where: string;
  sql: string;
  /** Null for a statement whose rows are not looked at. */
  columns: readonly Declared[] | null;
}

export interface Declared {
  name: string;
  type: string;
  nullable: boolean;
  /** May be missing altogether. */
  optional: boolean;
}

/** A column of the answer, as PostgreSQL describes it without running anything. */
export interface Described {
  name: string;
  dataTypeID: number;
  tableID: number;
  columnID: number;
}

/** Everything that the code asks of the database: calls of `rows`, `row` and `.query`, with their text put together. */
export function statementsOf(folder: string): { found: Statement[]; unread: string[] } {
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts'))
    .map((name) => join(folder, name));
  const config = ts.getParsedCommandLineOfConfigFile(
    'tsconfig.json',
    {},
    {
      ...ts.sys,
      onUnRecoverableConfigFileDiagnostic: (fault) => {
        throw new Error(String(fault.messageText));
      },
    },
  )!;
  const program = ts.createProgram(files, config.options);
  const checker = program.getTypeChecker();
  const found: Statement[] = [];
  const unread: string[] = [];

  /** The text of an expression that is known before anything runs; null when it is not. */
  function textOf(node: ts.Expression): string | null {
    if (ts.isStringLiteralLike(node)) return node.text;
    if (ts.isTemplateExpression(node)) {
      let text = node.head.text;
      for (const span of node.templateSpans) {
        const part = textOf(span.expression);
        if (part === null) return null;
        text += part + span.literal.text;
      }
      return text;
    }
    if (ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.PlusToken) {
      const [left, right] = [textOf(node.left), textOf(node.right)];
      return left === null || right === null ? null : left + right;
    }
    if (ts.isConditionalExpression(node)) return textOf(node.whenTrue);
    if (ts.isIdentifier(node)) {
      let symbol = checker.getSymbolAtLocation(node);
      if (symbol && symbol.flags & ts.SymbolFlags.Alias) symbol = checker.getAliasedSymbol(symbol);
      const declared = symbol?.valueDeclaration;
      if (declared && ts.isVariableDeclaration(declared) && declared.initializer)
        return textOf(declared.initializer);
    }
    return null;
  }

  function columnsOf(type: ts.Type): Declared[] | null {
    const properties = checker.getPropertiesOfType(type);
    if (type.flags & (ts.TypeFlags.Any | ts.TypeFlags.TypeParameter) || properties.length === 0) return null;
    return properties.map((property) => {
      const own = checker.getTypeOfSymbol(property);
      const parts = own.isUnion() ? own.types : [own];
      const real = parts.filter((part) => !(part.flags & (ts.TypeFlags.Null | ts.TypeFlags.Undefined)));
      return {
        name: property.name,
        type: [...new Set(real.map(plainly))].join('|'),
        nullable: real.length < parts.length || own.flags === ts.TypeFlags.Unknown,
        optional: (property.flags & ts.SymbolFlags.Optional) !== 0,
      };
    });
  }

  /** What a value is once it has come out of the driver. */
  function plainly(type: ts.Type): string {
    if (type.flags & ts.TypeFlags.StringLike) return 'string';
    if (type.flags & ts.TypeFlags.NumberLike) return 'number';
    if (type.flags & ts.TypeFlags.BooleanLike) return 'boolean';
    if (type.isIntersection())
      return plainly(type.types.find((part) => !(part.flags & ts.TypeFlags.Object)) ?? type.types[0]!);
    if (type.symbol?.name === 'Date') return 'Date';
    return 'object';
  }

  for (const file of program.getSourceFiles()) {
    if (!files.includes(relative('.', file.fileName))) continue;
    const visit = (node: ts.Node): void => {
      ts.forEachChild(node, visit);
      if (!ts.isCallExpression(node)) return;
      const { expression: called } = node;
      const query = ts.isPropertyAccessExpression(called) && called.name.text === 'query';
      const reads = ts.isIdentifier(called) && (called.text === 'rows' || called.text === 'row');
      if (!query && !reads) return;
      const text = node.arguments[query ? 0 : 1];
      if (!text) return;
      const { line } = file.getLineAndCharacterOfPosition(node.getStart());
      const where = `${relative('.', file.fileName)}:${line + 1}`;
      const sql = textOf(text);
      if (sql === null) return void unread.push(where);
      const shape = node.typeArguments?.[0];
      found.push({ where, sql, columns: shape ? columnsOf(checker.getTypeFromTypeNode(shape)) : null });
    };
    visit(file);
  }
  return { found, unread };
}

/** Asks PostgreSQL what a statement answers, without running it. */
export function describe(client: pg.Client, sql: string): Promise<Described[]> {
  return new Promise((resolve, reject) => {
    let columns: Described[] = [];
    const asked = {
      text: sql,
      submit(connection: { parse(what: object): void; describe(what: object): void; sync(): void }) {
        connection.parse({ text: sql, name: '', types: [] });
        connection.describe({ type: 'S', name: '' });
        connection.sync();
      },
      handleRowDescription: (message: { fields: Described[] }) => void (columns = message.fields),
      handleError: reject,
      handleReadyForQuery: () => resolve(columns),
      handleParseComplete: () => undefined,
      handleCommandComplete: () => undefined,
      callback: () => undefined,
    };
    client.query(asked as unknown as pg.Submittable);
  });
}
