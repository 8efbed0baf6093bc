// Keeps the capture page of the phone at hand without a connection: the page and the files it names, nothing else.
const shelf = 'phone-1';

const take = async () => {
  const page = await fetch('/c', { cache: 'no-store' });
  if (!page.ok) throw new Error(`The page answered ${page.status}.`);
  const html = await page.clone().text();
  const files = [...html.matchAll(/(?:href|src)="(\/[^"]+)"/g)].map((match) => match[1]);
  const cache = await caches.open(shelf);
  await cache.addAll(files);
  await cache.put('/c', page);
};

self.addEventListener('install', (event) => event.waitUntil(take().then(() => self.skipWaiting())));
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

// What other apps share lies in the database until the page takes it, so that it works without a connection and a
// reload repeats nothing. The stores are those of queue.ts.
const open = () =>
  new Promise((give, fail) => {
    const asked = indexedDB.open('nachlass-phone', 2);
    asked.onupgradeneeded = ({ oldVersion }) => {
      if (oldVersion < 1) asked.result.createObjectStore('queue', { keyPath: 'key' }).createIndex('at', 'at');
      if (oldVersion < 2) asked.result.createObjectStore('shared', { autoIncrement: true });
    };
    asked.onsuccess = () => give(asked.result);
    asked.onerror = () => fail(asked.error);
  });

const shared = async (request) => {
  const form = await request.formData();
  const word = (name) => String(form.get(name) ?? '').trim();
  const files = form.getAll('files').filter((file) => file instanceof File && file.size > 0);
  const db = await open();
  await new Promise((give, fail) => {
    const change = db.transaction('shared', 'readwrite');
    change.objectStore('shared').add({ title: word('title'), text: word('text'), url: word('url'), files });
    change.oncomplete = give;
    change.onerror = () => fail(change.error);
  });
  db.close();
  return Response.redirect('/c', 303);
};

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method === 'POST' && url.pathname === '/c') {
    event.respondWith(shared(request));
    return;
  }
  if (request.method !== 'GET' || url.origin !== self.location.origin || url.pathname.startsWith('/api')) return;
  if (request.mode === 'navigate') {
    // The newest page when there is a server, else the kept one; taken anew each time it could be reached.
    event.respondWith(
      fetch(request).then(
        (page) => {
          event.waitUntil(take().catch(() => undefined));
          return page;
        },
        () => caches.match('/c'),
      ),
    );
    return;
  }
  event.respondWith(
    caches.match(request).then(
      (kept) =>
        kept ??
        fetch(request).then((file) => {
          // Fonts are named by the style sheet; they come to the shelf when they are first used.
          if (file.ok && url.pathname.startsWith('/assets/')) {
            const copy = file.clone();
            event.waitUntil(caches.open(shelf).then((cache) => cache.put(request, copy)));
          }
          return file;
        }),
    ),
  );
});
