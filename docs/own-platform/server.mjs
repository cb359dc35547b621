// A sending platform to try things on, in one file: `node server.mjs [port]`. It keeps what it is given in memory.
import { createServer } from 'node:http';

const designs = new Map();
const pictures = new Map();

const server = createServer(async (request, response) => {
  const url = new URL(request.url, 'http://host');
  const chunks = [];
  for await (const chunk of request) chunks.push(chunk);
  const body = Buffer.concat(chunks);
  const say = (status, content) => {
    response.writeHead(status, { 'content-type': 'application/json' });
    response.end(JSON.stringify(content));
  };
  if (request.headers['seedhouse-key'] !== 'seeds-and-bulbs') return say(401, { why: 'This key is not known.' });
  const [, kind, number] = url.pathname.split('/');
  if (kind === 'pictures' && request.method === 'POST') {
    pictures.set(url.searchParams.get('name'), body);
    return say(201, { at: `https://seedhouse.example/p/${url.searchParams.get('name')}` });
  }
  if (kind !== 'designs') return say(404, { why: 'There is nothing here.' });
  if (request.method === 'GET' && number === undefined)
    return say(200, { designs: [...designs.values()].filter(({ name }) => name === url.searchParams.get('name')) });
  const design = designs.get(number);
  if (number !== undefined && design === undefined) return say(404, { why: 'There is no such design.' });
  if (request.method === 'GET') return say(200, design);
  const sent = JSON.parse(body);
  if (!sent.page.includes('{!leave_link!}')) return say(422, { why: 'Readers need a way to leave: {!leave_link!}.' });
  const stored = { ...sent, number: number ?? String(designs.size + 1) };
  designs.set(stored.number, stored);
  return say(number === undefined ? 201 : 200, stored);
});

server.listen(Number(process.argv[2] ?? 4200), '127.0.0.1', () => {
  console.log(`Seedhouse is at http://127.0.0.1:${server.address().port}/`);
});
