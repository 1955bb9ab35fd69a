import { afterAll, beforeAll, inject } from 'vitest';
import { raise, strike } from './scene.ts';

beforeAll(() => raise(inject('demo')));
afterAll(strike);
