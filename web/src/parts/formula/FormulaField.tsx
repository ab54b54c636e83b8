import { useCallback, useId, useMemo, useRef } from 'react';
import { ActionIcon, Input } from '@mantine/core';
import { IconListSearch } from '@tabler/icons-react';
import { autocompletion } from '@codemirror/autocomplete';
import { linter, type Diagnostic } from '@codemirror/lint';
import { EditorView, placeholder as placeholderOf } from '@codemirror/view';
import CodeMirror, { type ReactCodeMirrorRef } from '@uiw/react-codemirror';
import {
  check,
  continued,
  parsedFormula,
  type FormulaFinding,
  type ScopeFrame,
  type Use,
} from '@carafe/core/formula';
import { singleValues, type Shape } from '@carafe/core/shape';
import { FieldPicker } from '../FieldPicker';
import { Findings } from '../Findings';
import { completions } from './completion';
import { formula } from './language';
import classes from './formula.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

interface Props {
  label: string;
  description?: string;
  value: string;
  onChange: (value: string) => void;
  shape: Shape;
  frames?: readonly ScopeFrame[];
  use: Use;
  placeholder?: string;
  /** What the formula gives for the recipient shown. */
  now?: string | null;
  /** Takes the cursor as it appears. */
  autoFocus?: boolean;
}

function findingsOf(
  source: string,
  shape: Shape,
  frames: readonly ScopeFrame[],
  use: Use,
): FormulaFinding[] {
  if (source.trim() === '') return [];
  const parsed = parsedFormula(source);
  if (parsed.ok) return check(parsed.value, shape, { use, frames }).findings;
  const { start, end, column, message, repair } = parsed.error;
  const said = repair ? message : t('messageColumnColumn', { message, column });
  return [{ severity: 'error', start, end, message: said, ...(repair && { repair }) }];
}

const NO_FRAMES: readonly ScopeFrame[] = [];
const SETUP = {
  lineNumbers: false,
  foldGutter: false,
  highlightActiveLine: false,
  highlightActiveLineGutter: false,
  highlightSelectionMatches: false,
  searchKeymap: false,
  autocompletion: false,
  // Undoing is the template's own: one history for everything.
  history: false,
  historyKeymap: false,
  closeBrackets: false,
} as const;

/** Where the checker found something, for the editor to underline. */
function diagnosticsOf(findings: readonly FormulaFinding[], length: number): Diagnostic[] {
  return findings.map(({ start, end, severity, message }) => ({
    from: Math.min(start, length),
    to: Math.min(Math.max(end, start), length),
    severity: severity === 'hint' ? 'info' : severity,
    message,
  }));
}

/** A formula with completion of fields and functions, and what the checker says of it. */
export function FormulaField({
  label,
  description,
  value,
  onChange,
  shape,
  frames = NO_FRAMES,
  use,
  placeholder = '',
  now,
  autoFocus = false,
}: Props) {
  const id = useId();
  const editor = useRef<ReactCodeMirrorRef>(null);
  const findings = useMemo(
    () => findingsOf(value, shape, frames, use),
    [value, shape, frames, use],
  );
  // The editor is made once: what changes around it never takes the cursor from who is typing.
  const latest = useRef({ findings, shape, frames, onChange });
  latest.current = { findings, shape, frames, onChange };
  const changed = useCallback((text: string) => latest.current.onChange(text), []);
  const extensions = useMemo(
    () => [
      formula,
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({
        'aria-label': label,
        'aria-describedby': `${id}-findings`,
        spellcheck: 'false',
      }),
      placeholderOf(placeholder),
      autocompletion({
        override: [(at) => completions(latest.current.shape, latest.current.frames)(at)],
        icons: false,
      }),
      linter((view) => diagnosticsOf(latest.current.findings, view.state.doc.length), {
        delay: 100,
      }),
    ],
    [label, placeholder, id],
  );
  const wantsList = use === 'list';
  const hasError = findings.some((f) => f.severity === 'error');
  return (
    <Input.Wrapper label={label} labelElement="div" size="xs" {...(description && { description })}>
      <div className={classes.field} data-error={hasError || undefined}>
        <CodeMirror
          ref={editor}
          className={classes.editor ?? ''}
          value={value}
          basicSetup={SETUP}
          theme="none"
          indentWithTab={false}
          autoFocus={autoFocus}
          extensions={extensions}
          onChange={changed}
        />
        <FieldPicker
          shape={shape}
          frames={frames}
          {...(wantsList && { only: isList })}
          {...(!wantsList && { expand: singleValues })}
          onPick={({ path }) => {
            const view = editor.current?.view;
            if (!view) return;
            const { doc, selection } = view.state;
            const { from, to } = selection.main;
            // In the middle of a formula a field is put there; at its end it is tied to what stands there.
            const isInside = from !== to || (from > 0 && doc.sliceString(to).trim() !== '');
            const next = wantsList ? path : continued(doc.toString(), path, { shape, frames, use });
            view.dispatch({
              changes: isInside
                ? { from, to, insert: path }
                : { from: 0, to: doc.length, insert: next },
              selection: { anchor: isInside ? from + path.length : next.length },
            });
            view.focus();
          }}
        >
          <ActionIcon
            variant="subtle"
            size="sm"
            title={t('chooseAField')}
            aria-label={t('chooseAFieldForLabel', { label })}
          >
            <IconListSearch size={15} />
          </ActionIcon>
        </FieldPicker>
      </div>
      {now !== undefined && now !== null && value.trim() !== '' && (
        <div className="now">
          {t('here')} {now === '' ? t('blank') : now}
        </div>
      )}
      <div id={`${id}-findings`}>
        <Findings
          findings={findings}
          onRepair={({ repair, start, end }) => {
            if (repair) onChange(value.slice(0, start) + repair.text + value.slice(end));
          }}
        />
      </div>
    </Input.Wrapper>
  );
}

function isList({ field }: { field: { shape: Shape } }): boolean {
  return field.shape.kind === 'list';
}
