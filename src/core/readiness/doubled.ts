import { ASSEMBLY_WORDS } from '../assembly/silhouette.ts';
import { readDefinition, type Definition } from '../definition/read-definition.ts';
import type { ToolCall } from '../program/reading.ts';
import type { Finder } from './question.ts';

/**
 * One T that the program calls by remarks of two different tools: a T was doubled, and one of the two cuts is made with the other's
 * tool. A remark may also tell what is done rather than which tool does it, so somebody decides. Remarks that name no tool, or no size,
 * contradict nothing.
 */
export const doubled: Finder = ({ tool, calls }, { machine }) => {
  const read = calls.flatMap((call) => {
    // both are held against each other in one unit, whichever it is
    const definition = call.remark === '' ? null : readDefinition(call.remark, 'mm', machine.kind);
    return definition ? [{ call, definition }] : [];
  });
  const first = read[0];
  const other = first && read.find(({ definition }) => differ(first.definition, definition));
  if (!other) return [];
  const words = ({ line, remark }: ToolCall) => `"${remark}" (line ${line})`;
  return [
    {
      weight: 'look',
      code: 'doubled',
      tool,
      line: other.call.line,
      sentence: `T${tool} is called as ${words(first.call)} and as ${words(other.call)}: ${difference(first.definition, other.definition)}.`,
      remedy: 'Ask the programmer which of the two it is, and for a T of its own for the other.',
    },
  ];
};

const differ = (a: Definition, b: Definition) =>
  a.kind !== b.kind ||
  (a.thread !== '' && b.thread !== '' && a.thread !== b.thread) ||
  (a.diameter !== null && b.diameter !== null && a.diameter !== b.diameter) ||
  (a.cornerRadius !== null && b.cornerRadius !== null && a.cornerRadius !== b.cornerRadius);

const difference = (a: Definition, b: Definition) =>
  a.kind === b.kind
    ? 'two sizes under one T'
    : `a ${ASSEMBLY_WORDS[a.kind]} and a ${ASSEMBLY_WORDS[b.kind]} under one T`;
