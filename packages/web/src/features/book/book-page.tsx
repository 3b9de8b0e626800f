import { Box, Tab, Tabs } from '@mui/material';
import { useSearchParams } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { usePriceFolder } from '../../store/queries.ts';
import { AssemblyPane } from './assembly-pane.tsx';
import { BandsPane } from './bands-pane.tsx';
import { ClassesPane } from './classes-pane.tsx';
import { ItemsPane } from './items-pane.tsx';
import { ScalesPane } from './scales-pane.tsx';
import { SharedBookPane } from './shared-book-pane.tsx';
import { SheetsPane } from './sheets-pane.tsx';
import { ValuesPane } from './values-pane.tsx';

const TABS = ['item', 'assembly', 'value', 'scale', 'class', 'band', 'sheet', 'shared'] as const;
type BookTab = (typeof TABS)[number];

/** The book of the project: cost items in a grid, assemblies as recipes, named values, scales, price sheets. */
export function BookPage() {
  const { project, book } = useProjectState('project', 'book');
  const basis = useBasis('assemblies', 'items', 'scales', 'values');
  const newer = usePriceFolder(project.id).data?.filter((f) => f.state !== 'same').length ?? 0;
  const [params, setParams] = useSearchParams();
  const tab: BookTab = TABS.find((t) => params.get(t) !== null) ?? 'item';
  const choose = (of: BookTab) => (id: string | null) => setParams({ [of]: id ?? '' });
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', px: 1.5, pb: 1.5, gap: 1 }}>
      <Tabs
        value={tab}
        onChange={(_, next: BookTab) => setParams(next === 'item' ? {} : { [next]: '' })}
        sx={{ minHeight: 40, '& .MuiTab-root': { minHeight: 40, textTransform: 'none', fontSize: 14 } }}
      >
        <Tab value="item" label={`Cost items ${basis.items.length}`} />
        <Tab value="assembly" label={`Assemblies ${basis.assemblies.length}`} />
        <Tab value="value" label={`Named values ${basis.values.length}`} />
        <Tab value="scale" label={`Scales ${basis.scales.length}`} />
        <Tab value="class" label="Classes" />
        <Tab value="band" label="Bands" />
        <Tab value="sheet" label={newer > 0 ? `Price sheets, ${newer} newer` : 'Price sheets'} />
        <Tab
          value="shared"
          label={
            book ? `${book.name} ${book.version}${book.newest > book.version ? ', newer there' : ''}` : 'Shared books'
          }
        />
      </Tabs>
      {tab === 'item' && <ItemsPane wanted={params.get('item')} />}
      {tab === 'assembly' && <AssemblyPane code={params.get('assembly') ?? ''} onChoose={choose('assembly')} />}
      {tab === 'value' && <ValuesPane name={params.get('value') ?? ''} onChoose={choose('value')} />}
      {tab === 'scale' && <ScalesPane name={params.get('scale') ?? ''} onChoose={choose('scale')} />}
      {tab === 'class' && <ClassesPane />}
      {tab === 'band' && <BandsPane />}
      {tab === 'sheet' && <SheetsPane />}
      {tab === 'shared' && <SharedBookPane />}
    </Box>
  );
}
