import { EditorState, RangeSet, StateEffect, StateField } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  gutter,
  GutterMarker,
  lineNumbers,
  MatchDecorator,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import type { Finding } from '$core/readiness/question';

/** A finding at its line, as the margin shows it. */
export interface Mark {
  line: number;
  weight: Finding['weight'];
  words: string;
}

const SIGNS: Readonly<Record<Finding['weight'], string>> = {
  stop: '■',
  unknown: '?',
  look: '□',
  settled: '✓',
};
const WORST: readonly Finding['weight'][] = ['stop', 'unknown', 'look', 'settled'];

/** What a word of a program is, by its first letter. */
const CLASS: Readonly<Record<string, string>> = {
  '(': 'nc-remark',
  ';': 'nc-remark',
  N: 'nc-number',
  O: 'nc-number',
  T: 'nc-tool',
  H: 'nc-row',
  D: 'nc-row',
  G: 'nc-code',
  M: 'nc-code',
  '#': 'nc-variable',
};
const words = new MatchDecorator({
  regexp: /\([^)]*\)?|;.*$|[NOTHDGM]\s*\d+(?:\.\d+)?|#\d+/gi,
  decoration: ([word]) => Decoration.mark({ class: CLASS[word[0]!.toUpperCase()] ?? '' }),
});
const colours = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = words.createDeco(view);
    }
    update(update: ViewUpdate) {
      this.decorations = words.updateDeco(update, this.decorations);
    }
  },
  { decorations: ({ decorations }) => decorations },
);

const goTo = StateEffect.define<number | null>();
/** The line that was gone to. */
const here = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update: (set, transaction) => {
    for (const effect of transaction.effects)
      if (effect.is(goTo)) {
        const { doc } = transaction.state;
        if (effect.value === null || effect.value < 1 || effect.value > doc.lines) return Decoration.none;
        return Decoration.set([Decoration.line({ class: 'nc-here' }).range(doc.line(effect.value).from)]);
      }
    return set.map(transaction.changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

class Sign extends GutterMarker {
  constructor(readonly mark: Mark) {
    super();
  }
  override eq(other: Sign): boolean {
    return this.mark.weight === other.mark.weight && this.mark.words === other.mark.words;
  }
  override toDOM(): Node {
    // for a pointer: the list of findings says the same to everybody
    const sign = document.createElement('span');
    sign.ariaHidden = 'true';
    sign.className = `nc-sign nc-${this.mark.weight}`;
    sign.textContent = SIGNS[this.mark.weight];
    sign.title = this.mark.words;
    return sign;
  }
}

const setMarks = StateEffect.define<readonly Mark[]>();
const margin = StateField.define<RangeSet<Sign>>({
  create: () => RangeSet.empty,
  update: (set, transaction) => {
    for (const effect of transaction.effects)
      if (effect.is(setMarks)) {
        const { doc } = transaction.state;
        const worst = new Map<number, Mark>();
        for (const mark of effect.value) {
          const known = worst.get(mark.line);
          if (
            mark.line >= 1 &&
            mark.line <= doc.lines &&
            (!known || WORST.indexOf(mark.weight) < WORST.indexOf(known.weight))
          )
            worst.set(mark.line, mark);
        }
        return RangeSet.of(
          [...worst.values()].map((mark) => new Sign(mark).range(doc.line(mark.line).from)),
          true,
        );
      }
    return set.map(transaction.changes);
  },
});

const look = EditorView.theme({
  '&': {
    height: '100%',
    boxSizing: 'border-box',
    fontSize: '0.875rem',
    backgroundColor: 'transparent',
    color: 'inherit',
  },
  '&.cm-focused': { outline: '2px solid var(--color-primary)', outlineOffset: '2px' },
  '.cm-scroller': { fontFamily: 'var(--font-mono, monospace)', lineHeight: '1.25rem' },
  '.cm-gutters': { backgroundColor: 'var(--color-base-100)', color: 'inherit', border: 'none' },
  '.cm-lineNumbers .cm-gutterElement': { opacity: '0.75', minWidth: '3rem' },
  '.nc-sign': {
    width: '1.25rem',
    display: 'inline-block',
    textAlign: 'center',
    fontWeight: '700',
    cursor: 'pointer',
  },
  '.nc-stop, .nc-unknown': { color: 'var(--color-accent)' },
  '.nc-remark': { fontStyle: 'italic', opacity: '0.8' },
  '.nc-number': { opacity: '0.7' },
  '.nc-tool': { fontWeight: '700', borderBottom: '2px solid currentColor' },
  '.nc-row': { fontWeight: '700' },
  '.nc-code': { fontWeight: '500' },
  '.nc-variable': { color: 'var(--color-accent)' },
  '.nc-here': { backgroundColor: 'var(--color-base-300)', boxShadow: 'inset 4px 0 0 var(--color-accent)' },
});

export interface Viewer {
  go: (line: number | null) => void;
  mark: (marks: readonly Mark[]) => void;
  close: () => void;
}

/**
 * Shows a program's text, only as much of it in the page as is in view; it is read and not written.
 * @param first number of the text's first line
 */
export function showProgram(
  parent: HTMLElement,
  text: string,
  first: number,
  onMark: (line: number) => void,
): Viewer {
  const before = first - 1;
  // in a tree of its own its styles are sheets: the page allows no style that is written into it
  const root = parent.attachShadow({ mode: 'open' });
  const view = new EditorView({
    parent: root,
    root,
    state: EditorState.create({
      doc: text,
      extensions: [
        EditorState.readOnly.of(true),
        EditorView.editable.of(false),
        EditorView.contentAttributes.of({
          'aria-label': 'Program text',
          'aria-readonly': 'true',
          tabindex: '0',
        }),
        margin,
        gutter({
          class: 'nc-margin',
          markers: (of) => of.state.field(margin),
          initialSpacer: () => new Sign({ line: 0, weight: 'look', words: '' }),
          domEventHandlers: {
            click: (of, block) => {
              const { number } = of.state.doc.lineAt(block.from);
              onMark(number + before);
              return true;
            },
          },
        }),
        lineNumbers({ formatNumber: (line) => String(line + before) }),
        colours,
        here,
        look,
      ],
    }),
  });
  return {
    go: (line) => {
      const at = line === null ? null : line - before;
      const known = at !== null && at >= 1 && at <= view.state.doc.lines;
      view.dispatch({
        effects: [
          goTo.of(at),
          ...(known ? [EditorView.scrollIntoView(view.state.doc.line(at).from, { y: 'center' })] : []),
        ],
      });
    },
    mark: (marks) =>
      view.dispatch({
        effects: setMarks.of(marks.map((mark) => ({ ...mark, line: mark.line - before }))),
      }),
    close: () => view.destroy(),
  };
}
