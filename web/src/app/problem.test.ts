import { describe, expect, it } from 'vitest';
import { shownProblem } from './problem.ts';

describe('a failed request', () => {
  it('is told in the words of the server', () => {
    const data = {
      type: 'x',
      title: 'Sign in first.',
      status: 401,
      code: 'SIGN_IN_NEEDED',
      params: {},
    };
    expect(shownProblem({ status: 401, data })).toEqual({
      code: 'SIGN_IN_NEEDED',
      message: 'Sign in first.',
      params: {},
    });
  });

  it('says that the server can’t be reached where there is no answer of ours', () => {
    for (const error of [undefined, { status: 'FETCH_ERROR' }, { status: 502, data: '<html>' }]) {
      expect(shownProblem(error).code).toBe('OFFLINE');
    }
  });
});
