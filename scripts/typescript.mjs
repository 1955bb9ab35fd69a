// Lets Node load TypeScript as it stands: node --import ./scripts/typescript.mjs FILE
import { register } from 'node:module';

register('./typescript-hooks.mjs', import.meta.url);
