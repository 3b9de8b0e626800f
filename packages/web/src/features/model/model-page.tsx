import AccountTreeOutlinedIcon from '@mui/icons-material/AccountTreeOutlined';
import AdjustIcon from '@mui/icons-material/Adjust';
import ArticleOutlinedIcon from '@mui/icons-material/ArticleOutlined';
import CenterFocusStrongIcon from '@mui/icons-material/CenterFocusStrong';
import FilterCenterFocusIcon from '@mui/icons-material/FilterCenterFocus';
import LocalOfferIcon from '@mui/icons-material/LocalOfferOutlined';
import StraightenIcon from '@mui/icons-material/Straighten';
import VisibilityIcon from '@mui/icons-material/Visibility';
import VisibilityOffIcon from '@mui/icons-material/VisibilityOff';
import { Box, Button, LinearProgress, MenuItem, Select } from '@mui/material';
import { INTENSITY_UNITS, nameGroup, readText } from '@tally/core';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { usePageView } from '../../store/page-view.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useElements } from '../../store/use-elements.ts';
import { Empty } from '../../ui/empty.tsx';
import { showUnit } from '../../ui/format.ts';
import { IconAct } from '../../ui/icon-act.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { MarkedFaceIcon } from '../../ui/marked-face-icon.tsx';
import { isPageKey } from '../../ui/page-key.ts';
import { Panes } from '../../ui/panes.tsx';
import type { CutPlane } from '../../viewer/index.ts';
import { allRows, boundRows } from './bound-rows.ts';
import { ColourLegend } from './colour-legend.tsx';
import { CutControl } from './cut-control.tsx';
import { ElementSheet } from './element-sheet.tsx';
import { ElementTree } from './element-tree.tsx';
import { COLOUR_FIELDS, readColourMode, useModelColours } from './model-colours.ts';
import { ModelView } from './model-view.tsx';
import { RoomPlanView } from './room-plan-view.tsx';
import type { PointerUse } from './use-view-pointer.ts';

const EVERY = 'Every storey';
/** The building in space, cut open from above, or its rooms as areas. */
type ViewKind = 'space' | 'plan' | 'rooms';

const FIRST_VIEW = { storey: '', colours: 'natural', view: 'space', labels: '' };
const NONE: readonly number[] = [];

/** The building in 3D between its tree and the sheet of what is selected. */
export default function ModelPage() {
  const { project, sources, jobs } = useProjectState('project', 'sources', 'jobs');
  const models = useElements();
  const { data: states } = useStates(project.id);
  const { keys, frame, select } = useSelection();
  const [view, changeView] = usePageView('model', FIRST_VIEW);
  const setStorey = (name: string) => changeView({ storey: name === EVERY ? '' : name });
  const mode = readColourMode(view.colours);
  const colours = useModelColours(mode, states);
  const hasLabels = view.labels === 'cost';
  const kind: ViewKind = view.view === 'plan' || view.view === 'rooms' ? view.view : 'space';
  const [hiddenKeys, setHiddenKeys] = useKept<readonly number[]>(`${project.id}/model/hidden`, NONE);
  const hiddenByHand = useMemo(() => new Set(hiddenKeys), [hiddenKeys]);
  const [isTreeAway, setTreeAway] = useKept('model/tree-away', false);
  const [isSheetAway, setSheetAway] = useKept('model/sheet-away', false);
  const [fitRequest, setFitRequest] = useState(0);
  const [cut, setCut] = useKept<CutPlane | null>(`${project.id}/model/cut`, null);
  const [use, setUse] = useState<PointerUse>('select');
  const switchUse = (next: PointerUse) => setUse(use === next ? 'select' : next);

  const storeys = useMemo(() => {
    const levels = models.models.flatMap((m) => m.table.storeys);
    const names = [...new Set(models.models.flatMap((m) => [...m.table.storey.pool]))];
    const level = (name: string) => levels.find((s) => s.name === name)?.elevation ?? Number.NEGATIVE_INFINITY;
    return names.sort((a, b) => level(a) - level(b));
  }, [models]);
  // A storey that is called otherwise by now limits nothing: the building would be empty without a word.
  const isStoreyKnown = storeys.length === 0 || storeys.includes(view.storey);
  const storey = view.storey === '' || !isStoreyKnown ? EVERY : view.storey;
  /** Box around everything, m; null while nothing has a shape. */
  const extents = useMemo(() => boundRows(allRows(models.models)), [models]);
  /** Level of a storey; of the lowest with rooms or floors if none is chosen. */
  const levelOf = (name: string) =>
    models.models.flatMap((m) => m.table.storeys).find((s) => (name === EVERY ? s.gfa !== null : s.name === name))
      ?.elevation ?? 0;
  const hidden = useMemo(() => {
    if (storey === EVERY) return hiddenByHand;
    const out = new Set(hiddenByHand);
    for (const { table } of models.models)
      for (let row = 0; row < table.count; row++) if (readText(table.storey, row) !== storey) out.add(table.keys[row]!);
    return out;
  }, [hiddenByHand, storey, models]);

  const hide = () => {
    setHiddenKeys([...hiddenByHand, ...keys]);
    select([]);
  };
  const isolate = () => setHiddenKeys(models.models.flatMap((m) => [...m.table.keys].filter((k) => !keys.has(k))));
  const showAll = () => {
    setHiddenKeys([]);
    setStorey(EVERY);
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (!isPageKey(e)) return;
      const act = {
        m: () => switchUse('measure'),
        c: () => switchUse('faces'),
        f: () => setFitRequest((n) => n + 1),
        s: frame,
        h: hide,
        i: isolate,
        a: showAll,
        l: () => setTreeAway(!isTreeAway),
        d: () => setSheetAway(!isSheetAway),
        p: () => changeView({ labels: hasLabels ? '' : 'cost' }),
      }[e.key];
      if (act && (keys.size > 0 || !'sih'.includes(e.key))) act();
      if (e.key === 'Escape') select([]);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });

  const hasModel = sources.some((s) => s.revisions.some((r) => r.state === 'counting'));
  const drawing = models.models.filter((m) => m.revision.geometryState === 'running');
  const running = jobs.find((j) => j.state === 'running');
  if (!hasModel) {
    return (
      <Empty title={running ? `Reading ${running.fileName}` : 'No model yet'}>
        <span>
          {running
            ? 'Elements appear as soon as they are measured.'
            : 'Bring an IFC file; its elements are measured and priced by your rules.'}
        </span>
        <Button variant="contained" component={Link} to={`/projects/${project.id}/sources`}>
          Bring a model
        </Button>
      </Empty>
    );
  }
  const nothing = keys.size === 0;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Box
        role="toolbar"
        aria-label="View"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 0.25,
          px: 0.75,
          py: 0.5,
          borderBottom: 1,
          borderColor: 'divider',
          bgcolor: 'background.paper',
        }}
      >
        <IconAct
          padding={0.375}
          word="The list of elements (L)"
          isOn={!isTreeAway}
          onClick={() => setTreeAway(!isTreeAway)}
        >
          <AccountTreeOutlinedIcon fontSize="small" />
        </IconAct>
        <Select
          value={storey}
          onChange={(e) => setStorey(e.target.value)}
          inputProps={{ 'aria-label': 'Storey' }}
          sx={{ minWidth: 112, fontSize: 13 }}
        >
          {[EVERY, ...storeys].map((s) => (
            <MenuItem key={s} value={s}>
              {s}
            </MenuItem>
          ))}
        </Select>
        <Select
          value={mode}
          onChange={(e) => changeView({ colours: e.target.value })}
          inputProps={{ 'aria-label': 'Colours' }}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="natural">As drawn</MenuItem>
          <MenuItem value="completeness">By completeness</MenuItem>
          {INTENSITY_UNITS.map((unit) => (
            <MenuItem key={unit} value={`intensity:${unit}`}>
              Cost per {unit === 'each' ? 'piece' : showUnit(unit)}
            </MenuItem>
          ))}
          {COLOUR_FIELDS.map((field) => (
            <MenuItem key={field} value={`group:${field}`}>
              By {nameGroup(field).word.toLowerCase()}
            </MenuItem>
          ))}
          <MenuItem value="target">By target, over and under</MenuItem>
        </Select>
        <IconAct
          padding={0.375}
          word="What elements cost, written at them (P)"
          isOn={hasLabels}
          onClick={() => changeView({ labels: hasLabels ? '' : 'cost' })}
        >
          <LocalOfferIcon fontSize="small" />
        </IconAct>
        <Select
          value={kind}
          onChange={(e) => changeView({ view: e.target.value })}
          inputProps={{ 'aria-label': 'View' }}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="space">In space</MenuItem>
          <MenuItem value="plan">Storey plan</MenuItem>
          <MenuItem value="rooms">Rooms</MenuItem>
        </Select>
        <Box sx={{ flex: 1 }} />
        {kind !== 'rooms' && (
          <>
            <IconAct
              padding={0.375}
              word="Measure between two places (M)"
              isOn={use === 'measure'}
              onClick={() => switchUse('measure')}
            >
              <StraightenIcon fontSize="small" />
            </IconAct>
            <IconAct padding={0.375} word="Choose faces (C)" isOn={use === 'faces'} onClick={() => switchUse('faces')}>
              <MarkedFaceIcon fontSize="small" />
            </IconAct>
          </>
        )}
        <IconAct padding={0.375} word="Fit everything (F)" onClick={() => setFitRequest((n) => n + 1)}>
          <FilterCenterFocusIcon fontSize="small" />
        </IconAct>
        <IconAct padding={0.375} word="Show the selection (S)" isOff={nothing} onClick={frame}>
          <CenterFocusStrongIcon fontSize="small" />
        </IconAct>
        <IconAct padding={0.375} word="Only the selection (I)" isOff={nothing} onClick={isolate}>
          <AdjustIcon fontSize="small" />
        </IconAct>
        <IconAct padding={0.375} word="Hide the selection (H)" isOff={nothing} onClick={hide}>
          <VisibilityOffIcon fontSize="small" />
        </IconAct>
        <IconAct padding={0.375} word="Show all (A)" isOff={hidden.size === 0} onClick={showAll}>
          <VisibilityIcon fontSize="small" />
        </IconAct>
        <IconAct
          padding={0.375}
          word="What is selected, in detail (D)"
          isOn={!isSheetAway}
          onClick={() => setSheetAway(!isSheetAway)}
        >
          <ArticleOutlinedIcon fontSize="small" />
        </IconAct>
      </Box>
      <Panes
        name="model"
        left={isTreeAway ? null : <ElementTree models={models.models} states={states} />}
        right={nothing || isSheetAway ? null : <ElementSheet models={models} />}
      >
        <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
          <Box sx={{ flex: 1, position: 'relative', minHeight: 0 }}>
            {kind === 'rooms' ? (
              <RoomPlanView models={models.models} storey={storey === EVERY ? (storeys[0] ?? null) : storey} />
            ) : (
              <ModelView
                models={models.models}
                states={states}
                isByState={mode === 'completeness'}
                colourOf={colours.colourOf}
                hasLabels={hasLabels}
                hidden={hidden}
                fitRequest={fitRequest}
                planLevelM={kind === 'plan' ? levelOf(storey) : null}
                cut={cut}
                use={use}
              />
            )}
            {kind !== 'rooms' && <ColourLegend colours={colours} />}
            {kind === 'space' && extents && <CutControl box={extents} cut={cut} onCut={setCut} />}
            {(models.isLoading || drawing.length > 0) && (
              <Box
                sx={{
                  position: 'absolute',
                  left: 8,
                  bottom: 8,
                  right: 8,
                  fontSize: 12,
                  color: 'text.secondary',
                  pointerEvents: 'none',
                }}
              >
                {models.isLoading
                  ? 'Loading elements'
                  : `Drawing: figures are complete, the picture follows (${running ? Math.round(running.share * 100) : 0} %)`}
                <LinearProgress />
              </Box>
            )}
            {models.error && (
              <Box sx={{ position: 'absolute', inset: 'auto 8px 8px', color: 'error.main', fontSize: 13 }}>
                {models.error.message}
              </Box>
            )}
          </Box>
        </Box>
      </Panes>
    </Box>
  );
}
