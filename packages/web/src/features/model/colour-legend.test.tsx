/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useSelection } from '../../store/selection.tsx';
import { renderInProject } from '../../testing/in-project.tsx';
import { ColourLegend } from './colour-legend.tsx';
import { toColours } from './model-colours.ts';

function Selected() {
  return <output>{[...useSelection().keys].join()}</output>;
}

it('the legend names each colour with its figure; a click selects what has it', async () => {
  const colours = toColours('EUR per m²', [
    { colour: '#111111', label: '4.62 to 92.96', note: '38', keys: [1, 2] },
    { colour: '#222222', label: '92.97 to 115.15', note: '49', keys: [3] },
  ]);
  renderInProject(
    <>
      <ColourLegend colours={colours} />
      <Selected />
    </>,
  );
  expect(screen.getByRole('region', { name: 'Legend' }).textContent).toBe('EUR per m²4.62 to 92.963892.97 to 115.1549');
  await userEvent.setup().click(screen.getByRole('button', { name: /4.62/ }));
  expect(screen.getByRole('status').textContent).toBe('1,2');
});

it('as drawn there is no legend; a mode without anything says so', () => {
  const { container } = renderInProject(<ColourLegend colours={{ colourOf: null, legend: [], title: '' }} />);
  expect(container.textContent).toBe('');
  renderInProject(<ColourLegend colours={toColours('Left of target', [])} />);
  expect(screen.getByText('Nothing to colour by it yet.')).toBeTruthy();
});
