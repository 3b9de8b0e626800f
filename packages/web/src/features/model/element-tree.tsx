import ArrowDropDownIcon from '@mui/icons-material/ArrowDropDown';
import ArrowRightIcon from '@mui/icons-material/ArrowRight';
import SearchIcon from '@mui/icons-material/Search';
import { Box, InputAdornment, TextField, type Theme } from '@mui/material';
import {
  type CompletenessState,
  type ElementStatesDto,
  foldText,
  readText,
  type SourceKind,
  sayClass,
} from '@tally/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useId, useMemo, useRef, useState } from 'react';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { readStates } from '../../store/read-states.ts';
import { useSelection } from '../../store/selection.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { StateMark } from '../../ui/state-mark.tsx';
import { findTyped, stepInTree, type TreeRow, type TypedWord, typeLetter } from '../../ui/tree-keys.ts';

interface Leaf {
  readonly key: number;
  readonly label: string;
  /** What it is found by, as it stands there. */
  readonly words: string;
  readonly state: CompletenessState;
}
interface Branch {
  readonly id: string;
  readonly label: string;
  readonly keys: number[];
  readonly branches: Branch[];
  readonly leaves: Leaf[];
}
type Row =
  | { readonly kind: 'branch'; readonly branch: Branch; readonly level: number }
  | { readonly kind: 'leaf'; readonly leaf: Leaf; readonly level: number };

const NONE: readonly string[] = [];

/** What elements without a class are, by where they come from. */
const ORIGIN_WORDS: Readonly<Record<SourceKind, string>> = {
  model: 'No class',
  list: 'From lists',
  hand: 'Measured by hand',
  form: 'From forms',
  allowance: 'Allowances',
};

/** Elements by storey and class. */
function buildTree(models: readonly LoadedModel[], states: ReturnType<typeof readStates>): Branch[] {
  const storeys = new Map<string, Branch>();
  for (const { table } of models) {
    for (let row = 0; row < table.count; row++) {
      const storey = readText(table.storey, row) ?? 'No storey';
      const className = sayClass(readText(table.ifcClass, row)) || ORIGIN_WORDS[table.origin?.kind ?? 'model'];
      const key = table.keys[row]!;
      const name = readText(table.name, row) ?? readText(table.identity, row) ?? '';
      let s = storeys.get(storey);
      if (!s) {
        s = { id: storey, label: storey, keys: [], branches: [], leaves: [] };
        storeys.set(storey, s);
      }
      let c = s.branches.find((b) => b.label === className);
      if (!c) {
        c = { id: `${storey}/${className}`, label: className, keys: [], branches: [], leaves: [] };
        s.branches.push(c);
      }
      s.keys.push(key);
      c.keys.push(key);
      const words = [name, readText(table.typeName, row), readText(table.tag, row), className]
        .filter(Boolean)
        .join(' ');
      c.leaves.push({ key, label: name, words, state: states.get(key)?.state ?? 'unpriced' });
    }
  }
  for (const s of storeys.values()) s.branches.sort((a, b) => (a.label < b.label ? -1 : 1));
  const levels = new Map(models.flatMap((m) => m.table.storeys.map((s) => [s.name, s.elevation] as const)));
  const levelOf = ({ id }: Branch) => levels.get(id) ?? Number.POSITIVE_INFINITY;
  // From the lowest up; what is in none, or in one whose level is not known, comes last.
  return [...storeys.values()].sort((a, b) => (levelOf(a) === levelOf(b) ? 0 : levelOf(a) - levelOf(b)));
}

/** The element tree of the model page: a long list of which only what is seen is drawn. */
export function ElementTree({
  models,
  states,
}: {
  readonly models: readonly LoadedModel[];
  readonly states: readonly ElementStatesDto[] | undefined;
}) {
  const { keys, select, frame } = useSelection();
  const { project } = useProjectState('project');
  const [openIds, setOpenIds] = useKept(`${project.id}/model/tree-open`, NONE);
  const open = useMemo(() => new Set(openIds), [openIds]);
  const [query, setQuery] = useState('');
  const scroller = useRef<HTMLDivElement>(null);
  const known = readStates(states);
  const tree = useMemo(() => buildTree(models, known), [models, known]);
  /** What is searched, folded when it is first looked for. */
  const searched = useRef(new Map<string, string>());
  const rows = useMemo(() => {
    const wanted = foldText(query);
    const isFound = ({ words }: Leaf) => {
      let folded = searched.current.get(words);
      if (folded === undefined) {
        folded = foldText(words);
        searched.current.set(words, folded);
      }
      return folded.includes(wanted);
    };
    const out: Row[] = [];
    const visit = (branch: Branch, level: number) => {
      const hits = wanted ? branch.leaves.filter(isFound) : branch.leaves;
      const start = out.length;
      const found = wanted ? [branch, ...branch.branches].flatMap((b) => b.leaves.filter(isFound)) : [];
      out.push({ kind: 'branch', branch: wanted ? { ...branch, keys: found.map((l) => l.key) } : branch, level });
      if (wanted || open.has(branch.id)) {
        for (const b of branch.branches) visit(b, level + 1);
        for (const leaf of hits) out.push({ kind: 'leaf', leaf, level: level + 1 });
      }
      if (wanted && out.length === start + 1) out.pop();
    };
    for (const branch of tree) visit(branch, 0);
    return out;
  }, [tree, open, query]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 26,
    overscan: 10,
  });

  // A single element chosen elsewhere is opened and shown here.
  const only = keys.size === 1 ? [...keys][0]! : null;
  useEffect(() => {
    if (only === null) return;
    const storey = tree.find((s) => s.keys.includes(only));
    const branch = storey?.branches.find((b) => b.keys.includes(only));
    if (storey && branch)
      setOpenIds((before) =>
        before.includes(storey.id) && before.includes(branch.id)
          ? before
          : [...new Set([...before, storey.id, branch.id])],
      );
  }, [only, tree, setOpenIds]);
  useEffect(() => {
    const at = only === null ? -1 : rows.findIndex((r) => r.kind === 'leaf' && r.leaf.key === only);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
  }, [only, rows, virtual]);

  const toggle = (id: string) =>
    setOpenIds((before) => (before.includes(id) ? before.filter((other) => other !== id) : [...before, id]));

  const id = useId();
  const [cursor, setCursor] = useState(-1);
  const typed = useRef<TypedWord | null>(null);
  /** Letters find a row for who goes by keys; after a press of the mouse they are keys of the page. */
  const goesByKeys = useRef(false);
  const isPressed = useRef(false);
  const outline = useMemo(
    () =>
      rows.map((row): TreeRow => {
        if (row.kind === 'leaf') return { level: row.level, label: row.leaf.label, isOpen: null };
        return { level: row.level, label: row.branch.label, isOpen: query !== '' || open.has(row.branch.id) };
      }),
    [rows, open, query],
  );
  const keysOf = (row: Row) => (row.kind === 'leaf' ? [row.leaf.key] : row.branch.keys);
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.altKey) return;
    const isCommand = e.ctrlKey || e.metaKey;
    let step = stepInTree(outline, cursor, e.key);
    if (step) goesByKeys.current = true;
    else if (goesByKeys.current && e.key.length === 1 && !isCommand) {
      typed.current = typeLetter(typed.current, e.key, Date.now());
      const at = findTyped(outline, cursor, typed.current.text);
      step = { at: at < 0 ? cursor : at, act: null };
    }
    if (!step) return;
    e.preventDefault();
    // What is typed here is no key of the page.
    e.stopPropagation();
    setCursor(step.at);
    virtual.scrollToIndex(Math.max(0, step.at));
    const row = rows[step.at];
    if (!row || step.act === null) return;
    if (row.kind === 'branch' && (step.act === 'open' || step.act === 'close')) toggle(row.branch.id);
    else if (step.act === 'choose' || step.act === 'show') {
      select(keysOf(row), isCommand ? 'toggle' : 'replace');
      if (step.act === 'show') frame();
    }
  };

  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, height: '100%' }}>
      <TextField
        placeholder="Find in the tree"
        value={query}
        onChange={(e) => setQuery(e.target.value)}
        slotProps={{
          htmlInput: { 'aria-label': 'Find in the tree' },
          input: {
            startAdornment: (
              <InputAdornment position="start">
                <SearchIcon fontSize="small" />
              </InputAdornment>
            ),
          },
        }}
        sx={{ m: 1 }}
      />
      <Box
        ref={scroller}
        role="tree"
        aria-label="Elements by storey and class"
        aria-multiselectable="true"
        aria-activedescendant={cursor < 0 ? undefined : `${id}-${cursor}`}
        tabIndex={0}
        onKeyDown={onKeyDown}
        onMouseDown={() => {
          isPressed.current = true;
          goesByKeys.current = false;
        }}
        onMouseUp={() => {
          isPressed.current = false;
        }}
        onFocus={() => {
          goesByKeys.current = !isPressed.current;
          isPressed.current = false;
          if (cursor < 0 && rows.length > 0 && goesByKeys.current) setCursor(0);
        }}
        sx={{
          flex: 1,
          overflow: 'auto',
          minHeight: 0,
          outlineOffset: -2,
          '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
        }}
      >
        <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const place = {
              position: 'absolute',
              top: 0,
              left: 0,
              right: 0,
              height: 26,
              transform: `translateY(${item.start}px)`,
              display: 'flex',
              alignItems: 'center',
              gap: 0.75,
              pl: 0.5 + row.level * 1.5,
              pr: 1,
              fontSize: 13,
              cursor: 'pointer',
              whiteSpace: 'nowrap',
              overflow: 'hidden',
              '&:hover': { bgcolor: 'tally.petrolSoft' },
              boxShadow:
                cursor === item.index ? (t: Theme) => `inset 0 0 0 1px ${t.vars!.palette.tally.selection}` : undefined,
            } as const;
            const about = {
              id: `${id}-${item.index}`,
              role: 'treeitem',
              'aria-level': row.level + 1,
              onMouseDown: () => setCursor(item.index),
            } as const;
            if (row.kind === 'branch') {
              const { branch } = row;
              const isOpen = open.has(branch.id) || query !== '';
              return (
                <Box
                  key={`b${branch.id}`}
                  {...about}
                  aria-expanded={isOpen}
                  onClick={() => {
                    toggle(branch.id);
                    select(branch.keys);
                  }}
                  sx={{ ...place, fontWeight: row.level === 0 ? 650 : 500 }}
                >
                  {isOpen ? <ArrowDropDownIcon fontSize="small" /> : <ArrowRightIcon fontSize="small" />}
                  <Box component="span" sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis' }}>
                    {branch.label}
                  </Box>
                  <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
                    {branch.keys.length}
                  </Box>
                </Box>
              );
            }
            const { leaf } = row;
            const isSelected = keys.has(leaf.key);
            return (
              <Box
                key={leaf.key}
                {...about}
                aria-selected={isSelected}
                onClick={(e) => select([leaf.key], e.ctrlKey || e.metaKey ? 'toggle' : 'replace')}
                onDoubleClick={frame}
                sx={{ ...place, bgcolor: isSelected ? 'tally.selectionSoft' : undefined }}
              >
                <StateMark state={leaf.state} />
                <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
                  {leaf.label}
                </Box>
              </Box>
            );
          })}
        </Box>
      </Box>
    </Box>
  );
}
