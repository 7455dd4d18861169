import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { WriteBar } from './WriteBar';

afterEach(cleanup);

const order = {
  ...{
    write: 'order',
    connection: 'register',
    records: 'supply_order',
    main: true,
    gone: false,
    taken: 178,
    inserted: 170,
    updated: 4,
    unchanged: 2,
  },
  ...{ deleted: 0, issued: 0, refused: 2, fields: ['order_no'], keyFields: ['order_no'], sensitive: [] },
};

describe('the bar of a write', () => {
  it('says its name and a sum that adds up', () => {
    render(<WriteBar write={order} />);
    expect(screen.getByText('order')).toBeTruthy();
    expect(screen.getByText('178 taken = 170 inserted + 4 updated + 2 unchanged + 2 rejected')).toBeTruthy();
  });

  it('names its parts for those who do not see it', () => {
    render(<WriteBar write={order} />);
    expect(screen.getByLabelText('170 inserted, 4 updated, 2 unchanged, 2 rejected')).toBeTruthy();
  });
});
