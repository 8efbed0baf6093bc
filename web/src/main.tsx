import { askEarly } from './api/early';

// A piece's page has the most to fetch: the editor's script and what it shows come side by side with the rest.
const piece = /^\/bench\/(\d+)/.exec(location.pathname)?.[1];
if (piece) {
  askEarly(`/api/pieces/${piece}/draft`, `/api/pieces/${piece}`, `/api/pieces/${piece}/material`, '/api/formats');
  void import('./bench/PiecePage');
}
void import('./app');
