// The editor is most of a piece's script: it is fetched beside the rest, not when the rest has run.
if (/^\/bench\/\d+/.test(location.pathname)) void import('./bench/PiecePage');
void import('./app');
