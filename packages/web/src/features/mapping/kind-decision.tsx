import { Autocomplete, Box, Button, Chip, TextField } from '@mui/material';
import {
  describeCondition,
  type ElementKind,
  type ElementTable,
  evaluateScope,
  evaluateScopeOverParts,
  type KindPart,
  listDecidedParts,
  listKindParts,
  nameQuantity,
  type PracticeIndex,
  readTextList,
  sayAlike,
  sayInWords,
  scopeOfPart,
} from '@tally/core';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import type { SourceMapping } from '../../store/table-reader.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements, useFormulaNames, useSample } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { FormText } from '../../ui/form-text.tsx';
import { showFigure, showMove, showSiText, showTime, showUnit } from '../../ui/format.ts';
import { checkFormula, FormulaText } from '../../ui/formula-field.tsx';
import { fillFromRule, type KindForm, listDrivers, listOptions, makeRule, nameKind, optionId, type PricedOption, scopeOfKind } from './decide-kind.ts'; // biome-ignore format: one module
import { DecidedBy } from './decided-by.tsx';
import { KindPartField } from './kind-parts.tsx';
import { countDecidedParts, type KindDecision, listCoded } from './kind-states.ts';
import { listLikes, MOST_LIKES } from './list-likes.ts';
import { sayPart } from './part-words.ts';
import { sectionOf, suggestForKind } from './practice-rules.ts';
import { addRule, DEFAULT_SECTION, newRuleId } from './rule-changes.ts';
import { namesFor } from './rule-form.ts';
import { RuleParameters, useParameterCheck } from './rule-parameters.tsx';
import { useNamedBook } from './use-named-book.ts';

/** Quantities that are offered as drivers, at most. */
const MOST_DRIVERS = 4;

/** The key that keeps the decision: no list takes it for its marked entry. */
const isKeepKey = (e: KeyboardEvent): boolean => e.key === 'Enter' && (e.ctrlKey || e.metaKey);

/** The decision for one kind: what it catches, what it is priced with and by, and what comes of it, while it is typed. */
export function KindDecisionPane({
  kind,
  kinds,
  decided,
  mappings,
  practice,
  next,
  onNext,
}: {
  readonly kind: ElementKind;
  readonly kinds: readonly ElementKind[];
  /** What decides about each kind, by its id. */
  readonly decided: ReadonlyMap<string, readonly KindDecision[]>;
  readonly mappings: readonly SourceMapping[];
  readonly practice: PracticeIndex;
  readonly next: ElementKind | null;
  readonly onNext: () => void;
}) {
  const { project, orders, money } = useProjectState('project', 'orders', 'money');
  const { rules, sections, assemblies, settings, scopes } = useBasis(
    'rules',
    'sections',
    'assemblies',
    'settings',
    'scopes',
  );
  const named = useNamedBook();
  const { tables, models } = useElements();
  const ownNames = useFormulaNames();
  const sample = useSample();
  const commit = useCommit(project.id);
  const [refusal, setRefusal] = useState<string | null>(null);
  /** Of the rule that is being decided; another one when it is kept. */
  const [ruleId, setRuleId] = useState(newRuleId);
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, []);
  const keys = useMemo(() => new Set(kind.keys), [kind.keys]);
  const decisions = decided.get(kind.id) ?? [];
  const parts = useMemo(() => listKindParts(tables, keys), [tables, keys]);
  const decidedParts = useMemo(() => countDecidedParts(keys, models, mappings), [keys, models, mappings]);
  /** What of the kind is decided about; null for its elements themselves. */
  const [part, setPart] = useState<KindPart | null>(null);
  const subject = part ?? kind;
  const names = useMemo(() => namesFor(ownNames, part?.about), [ownNames, part]);
  // The same list while the plan moves: what is marked in it with the keys stays marked.
  const { quantities } = subject;
  const options = useMemo(() => listOptions({ quantities }, named.assemblies, named.items), [quantities, named]);
  const coded = useMemo(() => listCoded(keys, models, named).slice(0, MOST_LIKES), [keys, models, named]);
  // The first rule of a project makes its first section.
  const offered = sections.length > 0 ? sections : [DEFAULT_SECTION];
  const likes = useMemo(() => listLikes(kind, kinds, rules, decided), [kind, kinds, rules, decided]);
  const suggested = useMemo(() => {
    const materials = new Set(tables.flatMap((t) => listMaterialsOf(t, keys)));
    return suggestForKind(kind, [...materials], practice, named).slice(0, MOST_LIKES);
  }, [kind, keys, tables, practice, named]);
  const form = useForm<KindForm>({
    defaultValues: {
      scope: scopeOfKind(kind),
      about: '',
      pricedWith: '',
      section: likes[0]?.by.section ?? offered[0]!.id,
      driver: '',
      parameters: {},
      leaveOut: '',
    },
  });
  const draft = useWatch({ control: form.control }) as KindForm;
  const { about, scope } = draft;
  const [isLeavingOut, setLeavingOut] = useState(false);
  const [isScopeOpen, setScopeOpen] = useState(false);
  const set = (part: Partial<KindForm>) => {
    for (const [name, value] of Object.entries(part)) form.setValue(name as keyof KindForm, value as never);
  };
  const option = options.find((o) => optionId(o) === draft.pricedWith) ?? null;
  const drivers = option ? listDrivers(subject, option.unit).slice(0, MOST_DRIVERS) : [];
  const assembly = option?.kind === 'assembly' ? assemblies.find((a) => a.code === option.code) : undefined;
  const checkParameter = useParameterCheck(assembly, names);
  const problem = option
    ? (checkFormula(draft.driver, option.unit, names) ??
      Object.entries(draft.parameters).reduce<string | null>(
        (wrong, [name, v]) => wrong ?? checkParameter(name, v),
        null,
      ))
    : null;
  const rule =
    isLeavingOut || problem === null
      ? makeRule(kind, isLeavingOut ? draft : { ...draft, leaveOut: '' }, ruleId, part ? sayPart(part) : '')
      : null;
  const change = rule && addRule({ rules, sections, orders }, rule);
  const move = usePreview(project.id, change?.diff ?? null);
  const caught = useMemo(() => {
    let [all, own] = [0, 0];
    for (const table of tables) {
      const mask = about ? evaluateScopeOverParts(scope, table, about) : evaluateScope(scope, table);
      const rows = about ? listDecidedParts(table, about).rows : null;
      for (let at = mask.indexOf(1); at >= 0; at = mask.indexOf(1, at + 1)) {
        all++;
        if (keys.has(table.keys[rows ? rows[at]! : at]!)) own++;
      }
    }
    return { all, own };
  }, [tables, scope, about, keys]);
  const turnTo = (chosen: KindPart | null) => {
    const ofKind = scopeOfKind(kind);
    setPart(chosen);
    set({
      about: chosen?.about ?? '',
      scope: chosen ? { all: [ofKind, scopeOfPart(chosen)].flatMap((c) => ('all' in c ? c.all : [c])) } : ofKind,
      pricedWith: '',
      driver: '',
      parameters: {},
    });
  };
  const choose = (chosen: PricedOption | null) =>
    set({
      pricedWith: chosen ? optionId(chosen) : '',
      parameters: {},
      driver: chosen ? (listDrivers(subject, chosen.unit)[0]?.name ?? '') : '',
      // Where the book's thing is used already, it belongs.
      section: rules.find((r) => r.section && (r.item ?? r.assembly) === chosen?.code)?.section ?? draft.section,
    });
  const keep = async () => {
    // Keys reach this while it is sent, too.
    if (!change || commit.isPending) return;
    const refused = await refusalOf(commit.mutateAsync(change));
    // Meanwhile one may have gone on oneself.
    if (!isHere.current) return;
    setRefusal(refused);
    if (refused !== null) return;
    setRuleId(newRuleId());
    onNext();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (!isKeepKey(e)) return;
    e.preventDefault();
    void keep();
  };
  const wanted = part?.count ?? kind.keys.length;
  const isRight = caught.own === wanted;
  return (
    <Box component="section" aria-label="Decision" onKeyDown={onKeyDown} sx={PANE}>
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto', p: 1.5, display: 'grid', gap: 1.25, alignContent: 'start' }}>
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
          <Box component="h2" sx={{ m: 0, fontSize: 15, fontWeight: 650 }}>
            {nameKind(kind)}
          </Box>
          <Box sx={{ fontSize: 13, color: 'text.secondary', whiteSpace: 'nowrap' }}>
            {kind.keys.length === 1 ? 'one element' : `${showFigure(kind.keys.length, 0)} elements`}
          </Box>
        </Box>
        {decisions.length > 0 ? (
          <DecidedBy kind={kind} decisions={decisions} />
        ) : (
          <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Nothing decides about it yet.</Box>
        )}
        {parts.length > 0 && (
          <KindPartField parts={parts} chosen={part} decided={decidedParts} units={settings.units} onChoose={turnTo} />
        )}
        {coded.length > 0 && !part && !isLeavingOut && (
          <Box sx={CHIPS}>
            By its code
            {coded.map(({ code, target }) => (
              <Chip
                key={optionId(target)}
                size="small"
                variant="outlined"
                title={`${target.description}${target.by === 'class' ? `, of class ${code}` : ''}`}
                label={`${code}: ${target.code}`}
                onClick={() => choose({ ...target, isFitting: true })}
              />
            ))}
          </Box>
        )}
        {likes.length > 0 && !part && !isLeavingOut && (
          <Box sx={CHIPS}>
            As in
            {likes.map(({ like, by }) => (
              <Chip
                key={by.id}
                size="small"
                variant="outlined"
                title={`Prices ${like}`}
                label={by.name}
                onClick={() => set(fillFromRule(by))}
              />
            ))}
          </Box>
        )}
        {suggested.length > 0 && !part && !isLeavingOut && (
          <Box sx={CHIPS}>
            In earlier projects
            {suggested.map((s) => (
              <Chip
                key={`${optionId(s)} ${s.section} ${s.driver}`}
                size="small"
                variant="outlined"
                title={`${s.description}: ${s.elements} ${s.elements === 1 ? 'element' : 'elements'} ${sayAlike(s, kind.ifcClass)}, in ${s.projects.join(', ')}, last changed ${showTime(s.last)}`}
                label={`${s.code}, ${s.elements} ${sayAlike(s, kind.ifcClass)}`}
                onClick={() =>
                  set({
                    pricedWith: optionId(s),
                    parameters: {},
                    driver: s.driver,
                    section: sectionOf(s, offered) ?? draft.section,
                  })
                }
              />
            ))}
          </Box>
        )}
        {isLeavingOut ? (
          <FormText control={form.control} name="leaveOut" label="Why it is left out" autoFocus />
        ) : (
          <>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1.6fr 1fr', gap: 1.5 }}>
              <Autocomplete
                // The first that fits is marked: Enter takes it, however the list moves meanwhile.
                autoHighlight
                onKeyDown={(e) => {
                  if (isKeepKey(e)) e.defaultMuiPrevented = true;
                }}
                options={options}
                value={option}
                getOptionKey={optionId}
                getOptionLabel={(o) => `${o.code} ${o.description}`}
                groupBy={(o) => (o.isFitting ? 'Of a unit that it has' : 'Of other units')}
                isOptionEqualToValue={(a, b) => optionId(a) === optionId(b)}
                onChange={(_, chosen) => choose(chosen)}
                renderOption={({ key, ...props }, o) => (
                  <Box component="li" key={key} {...props} sx={{ fontSize: 13, gap: 1 }}>
                    <Box sx={{ fontFamily: FIGURES, minWidth: 84 }}>{o.code}</Box>
                    <Box sx={{ flex: 1 }}>{o.description}</Box>
                    <Box sx={{ color: 'text.secondary' }}>{showUnit(o.unit)}</Box>
                  </Box>
                )}
                renderInput={(p) => <TextField {...p} label="Priced with" placeholder="Code or words" />}
              />
              <Autocomplete
                options={offered}
                value={offered.find((s) => s.id === draft.section) ?? null}
                getOptionKey={(s) => s.id}
                getOptionLabel={(s) => s.name}
                onChange={(_, s) => set({ section: s?.id ?? '' })}
                renderInput={(p) => <TextField {...p} label="Work section" />}
              />
            </Box>
            {option && (
              <Box sx={CHIPS}>
                By
                {drivers.map((q) => (
                  <Chip
                    key={q.name}
                    size="small"
                    color={draft.driver === q.name ? 'primary' : 'default'}
                    variant={draft.driver === q.name ? 'filled' : 'outlined'}
                    title={q.name}
                    label={`${nameQuantity(q.name).word} ${showSiText(q.value, q.unit, settings.units)}${q.known < wanted ? `, of ${q.known}` : ''}`}
                    onClick={() => set({ driver: q.name })}
                  />
                ))}
              </Box>
            )}
            {option && (
              <FormulaText
                label={`Driver, in ${showUnit(option.unit)}`}
                value={draft.driver}
                names={names}
                problem={option && checkFormula(draft.driver, option.unit, names)}
                onChange={(driver) => set({ driver })}
              />
            )}
            {assembly && (assembly.parameters ?? []).length > 0 && (
              <RuleParameters
                assembly={assembly}
                values={draft.parameters}
                check={checkParameter}
                names={names}
                rule={{ scope, about: about || undefined }}
                onChange={(parameters) => set({ parameters: { ...parameters } })}
              />
            )}
          </>
        )}
        <Box sx={{ fontSize: 13 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
            <Box sx={{ flex: 1, minWidth: 0 }} title={describeCondition(draft.scope)}>
              Where {sayInWords(describeCondition(draft.scope))}:{' '}
              <Box
                component="span"
                data-testid="kind-catches"
                sx={{ color: isRight ? 'text.secondary' : 'error.main', whiteSpace: 'nowrap' }}
              >
                {isRight
                  ? caught.own === 1
                    ? 'it alone'
                    : `all ${showFigure(caught.own, 0)}`
                  : `${caught.own} of ${wanted} of it`}
                {caught.all > caught.own ? ` and ${caught.all - caught.own} others` : ''}
              </Box>
            </Box>
            <Button color="inherit" aria-expanded={isScopeOpen} onClick={() => setScopeOpen(!isScopeOpen)}>
              {isScopeOpen ? 'Done' : 'Change'}
            </Button>
          </Box>
          {isScopeOpen && (
            <ConditionEditor
              scope={draft.scope}
              scopes={scopes}
              tables={tables}
              sample={sample}
              onChange={(to) => set({ scope: to })}
            />
          )}
        </Box>
        {refusal && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
            {refusal}
          </Box>
        )}
      </Box>
      <Box
        sx={{
          display: 'flex',
          gap: 1,
          alignItems: 'center',
          flexWrap: 'wrap',
          px: 1.5,
          py: 1,
          borderTop: 1,
          borderColor: 'divider',
        }}
      >
        <Box
          role="status"
          aria-label="Effect"
          sx={{ flex: 1, minWidth: 110, fontSize: 13, fontFamily: FIGURES, whiteSpace: 'nowrap' }}
        >
          {move ? `${showMove(move.move, money.minorDigits)} ${money.currency}` : ''}
        </Box>
        {next && (
          <Button color="inherit" onClick={onNext} aria-keyshortcuts="n">
            Next open (N)
          </Button>
        )}
        <Button color="inherit" onClick={() => setLeavingOut(!isLeavingOut)}>
          {isLeavingOut ? 'Price it' : 'Leave it out'}
        </Button>
        <Button
          variant="contained"
          disabled={!change || commit.isPending}
          onClick={() => void keep()}
          aria-keyshortcuts="Control+Enter"
          title="Ctrl/⌘ Enter"
        >
          {isLeavingOut ? 'Keep it out' : 'Keep the decision'}
        </Button>
      </Box>
    </Box>
  );
}

const PANE = {
  flex: 1,
  minHeight: 0,
  display: 'flex',
  flexDirection: 'column',
  bgcolor: 'background.paper',
  border: 1,
  borderColor: 'divider',
  borderRadius: 1,
} as const;
/** Materials of some elements of a table. */
const listMaterialsOf = (table: ElementTable, keys: ReadonlySet<number>): string[] =>
  [...table.keys].flatMap((key, row) => (keys.has(key) ? readTextList(table.materials, row) : []));

const CHIPS = { display: 'flex', flexWrap: 'wrap', gap: 0.75, alignItems: 'center', fontSize: 13 } as const;
