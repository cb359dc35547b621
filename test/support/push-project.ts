import { destinationOf, secretOf, type TestPlatform } from './platforms.js';
import { TestFolder, type Run } from './project.js';

const message = `<!doctype html>
<html lang="en">
  <head><meta charset="utf-8"><title>Repair Day at \${project.name}</title><meta name="preheader" content="Bring what is broken"></head>
  <body>
    <p><img src="../images/sign.png" alt="Alder Lane" width="240"></p>
    <p>Hello @{first_name}, bring what is broken to <a href="https://alderlane.example/repair">Repair Day</a>.</p>
    <p><img src="../images/plane.png" alt="A plane" width="120"></p>
    <p>@{sender.postal_address} <a href="@{link.unsubscribe}">Leave</a></p>
  </body>
</html>
`;

/** A project of one message, `repair`, with two pictures, for a destination `there` of a platform. */
export function pushProject(platform: string, more = ''): TestFolder {
  const demo = TestFolder.demoProject();
  const folder = new TestFolder().write({
    'inscriba.yaml': `name: Alder Lane
sender: { name: Alder Lane, address: desk@alderlane.example, postal_address: 14 Alder Lane }
fields: { first_name: { sample: Ines } }
checks: { tag-no-fallback: off }
destinations:
  there: ${destinationOf[platform] ?? ''}
${more}`,
    'messages/repair.html': message,
    'images/sign.png': demo.bytes('images/sign.png'),
    'images/plane.png': demo.bytes('images/plane.png'),
    'images/drill.png': demo.bytes('images/drill.png'),
  });
  demo.remove();
  return folder;
}

/** The environment in which a project reaches a platform. */
export function environmentOf(name: string, address: string): Record<string, string> {
  return { P_URL: address, P_SECRET: secretOf[name] ?? '' };
}

/** Pushes a project to a platform. */
export function pushTo(folder: TestFolder, platform: TestPlatform, words: readonly string[] = []): Promise<Run> {
  return folder.runBeside(['push', ...words], environmentOf(platform.name, platform.address));
}
