// odex ships a TypeScript source without types, which tools pick up by mistake; this plain file keeps them off it.
export { Solver } from 'odex/src/odex.js';
