/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import { loadLater } from './load-later.tsx';
import { PartBoundary } from './part-boundary.tsx';

/** React tells the console of everything that a boundary catches. */
beforeEach(() => void jest.spyOn(console, 'error').mockImplementation(() => undefined));
afterEach(() => jest.restoreAllMocks());

describe('a part that is loaded when it is shown', () => {
  it('is loaded once, and shown at once wherever it is shown again', async () => {
    let times = 0;
    const Chart = loadLater('The chart', async () => {
      times++;
      return ({ name }: { name: string }) => <p>{name}</p>;
    });
    const { unmount } = render(<Chart name="Rates" />);
    expect(await screen.findByText('Rates')).toBeTruthy();
    unmount();
    render(<Chart name="Hours" />);
    expect(screen.getByText('Hours')).toBeTruthy();
    expect(times).toBe(1);
  });
  it('says that it could not be loaded, leaves the rest of the page as it is, and is loaded when asked again', async () => {
    let isAway = true;
    const Chart = loadLater('The chart', async () => {
      if (isAway) throw new Error('no answer');
      return () => <p>Drawn</p>;
    });
    render(
      <>
        <input aria-label="Reason" />
        <Chart />
      </>,
    );
    await userEvent.type(screen.getByLabelText('Reason'), 'Agreed on site');
    expect((await screen.findByRole('alert')).textContent).toContain('The chart could not be shown (no answer).');
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect((await screen.findByRole('alert')).textContent).toContain('no answer');
    isAway = false;
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    expect(await screen.findByText('Drawn')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Reason').value).toBe('Agreed on site');
  });
});

describe('what fails while it is drawn', () => {
  it('as a view without a graphics card, takes nothing else off the screen', () => {
    const View = () => {
      useEffect(() => {
        throw new Error('Error creating WebGL context.');
      }, []);
      return <canvas />;
    };
    render(
      <>
        <p>Total 3,072.00</p>
        <PartBoundary what="The model">
          <View />
        </PartBoundary>
      </>,
    );
    expect(screen.getByRole('alert').textContent).toContain(
      'The model could not be shown (Error creating WebGL context.).',
    );
    expect(screen.getByText('Total 3,072.00')).toBeTruthy();
  });
});
