import { expect } from 'chai';
import { execFile, spawn } from 'node:child_process';
import { link, lstat, mkdir, mkdtemp, readdir, readFile, symlink, utimes, writeFile } from 'node:fs/promises';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { promisify } from 'node:util';
import { gzipSync } from 'node:zlib';
import { inspectMesh } from '@nematos/core/mesh/data/topology';
import { readBinary } from '../../core/test/stl-reader';
import { createApp } from '../src/app';
import type { Compared } from '@nematos/core/exchange/compared';
import { main } from '../src/cli';

const ROOT = join(import.meta.dirname, '../..');
const DEMO = (name: string) => join(ROOT, 'demo', name);

/** Runs a command in this process. */
async function nematos(...args: string[]): Promise<{ code: number; stdout: string; stderr: string }> {
  let [stdout, stderr] = ['', ''];
  const code = await main(args, { out: (text) => (stdout += text), err: (text) => (stderr += text) });
  return { code, stdout, stderr };
}

describe('command line', () => {
  it('report --json gives every figure in base units, at full precision', async () => {
    // Put together before a source was changed, it is put together anew.
    const put = join(ROOT, 'server/dist/cli.js');
    await mkdir(join(ROOT, 'server/dist'), { recursive: true });
    await writeFile(put, 'throw new Error("an old one");');
    await utimes(put, 1, 1);
    const { stdout } = await promisify(execFile)(process.execPath, [
      join(ROOT, 'server/bin/nematos.js'),
      'report',
      DEMO('gate-spring.json'),
      '--json',
    ]);
    const told = JSON.parse(stdout) as {
      figures: { step: string; name: string; value: number; unit: string }[];
    };
    const figure = (step: string, name: string) =>
      told.figures.find((one) => one.step === step && one.name === name)!;
    expect(figure('duty', 'rate').unit).equal('N/mm');
    expect(figure('duty', 'rate').value).closeTo((81500 * 1.8 ** 4) / (8 * 14.4 ** 3 * 5.5), 1e-12);
    const H = figure('coil', 'height').value;
    // Closed coils make the wire a little longer than one of even pitch.
    const even = Math.hypot(Math.PI * 14.4 * 7.5, H);
    expect(figure('spring', 'wireLength').value / even - 1).within(0, 2e-3);
    expect(figure('spring', 'wireLength').value).equal(figure('coil', 'length').value);
    expect(figure('spring', 'mass').unit).equal('g');
  });

  it('build writes a closed mesh, as the report in words promises', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const out = join(folder, 'out.stl');
    const built = await nematos('build', DEMO('nest-spring.json'), '-o', out);
    expect(built.stderr).equal('');
    expect(built.stdout).match(/\d+ triangles, chord tolerance 0\.02 mm/);
    expect(inspectMesh(readBinary(await readFile(out))).openEdges).equal(0);
    expect((await nematos('report', DEMO('nest-spring.json'))).stdout).match(/● Surface is closed/);
  });

  it('import makes a design of a part, which builds the same part again', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const [mesh, design, again] = ['spring.obj', 'spring.json', 'again.stl'].map((name) =>
      join(folder, name),
    ) as [string, string, string];
    await nematos('build', DEMO('nest-spring.json'), '-o', mesh);
    const imported = await nematos('import', mesh, '-o', design);
    expect([imported.stderr, imported.code]).deep.equal(['', 0]);
    await nematos('build', design, '-o', again);
    const first = join(folder, 'first.stl');
    await nematos('build', DEMO('nest-spring.json'), '-o', first);
    const volumes = [];
    for (const file of [first, again]) {
      const { openEdges, volume } = inspectMesh(readBinary(await readFile(file)));
      expect(openEdges).equal(0);
      volumes.push(volume);
    }
    expect(volumes[1]! / volumes[0]!).closeTo(1, 1e-5);
    expect(await nematos('import', DEMO('nest-spring.json'), '-o', join(folder, 'x.json'))).deep.include({
      code: 1,
      stderr: 'nematos: This file cannot become a design. Choose a 3MF, STL, OBJ, SVG or DXF file.\n',
    });
  });

  it('compare sets a design beside its variants, and beside others', async () => {
    const { stdout, code } = await nematos('compare', DEMO('gate-spring.json'), '--json');
    expect(code).equal(0);
    const told = JSON.parse(stdout) as Compared;
    expect(told.names).deep.equal(['as it is', 'Stiffer', 'Softer']);
    expect(told.written.map(({ label }) => label)).include('wire');
    // The rate goes with the fourth power of the wire where the coil stays as wide as it is in wires: so with the wire itself.
    const rate = told.figures.find(({ name }) => name === 'rate')!.values as number[];
    const wires = told.written.find(({ label }) => label === 'wire')!.texts.map((text) => parseFloat(text!));
    expect(rate[1]! / rate[0]!).closeTo(wires[1]! / wires[0]!, 1e-6);
    const beside = await nematos('compare', DEMO('gate-spring.json'), DEMO('nest-spring.json'));
    expect(beside.stdout).match(/as it is\s+Stiffer\s+Softer\s+Nest spring/);
    expect((await nematos('compare', DEMO('nest-spring.json'))).stderr).match(/needs a design with variants/);
  });

  it('table writes the bend rows of a run, and points along a path', async () => {
    const out = join(tmpdir(), `nematos-rows-${process.pid}.csv`);
    expect((await nematos('table', DEMO('frame-basket.json'), 'run', 'bends', '-o', out)).code).equal(0);
    const rows = (await readFile(out, 'utf8')).trim().split(/\r?\n/);
    expect(rows[0]).equal('length [mm],rotation [deg],angle [deg],radius [mm]');
    expect(rows[1]).equal('48,-90,90,12');
    expect(rows).to.have.length(7);
    const points = await nematos('table', DEMO('frame-basket.json'), 'run', '-o', out);
    expect(points.stdout).match(/\d+ rows/);
  });

  it('says in one line what is wrong, with a status', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const foreign = join(folder, 'foreign.json');
    await writeFile(foreign, '{"a":1}');
    const cases: [string[], number, RegExp][] = [
      [['report', 'nowhere.json'], 2, /there is no file nowhere\.json/],
      [['report', foreign], 2, /not a Nematos design/],
      [['knit', foreign], 2, /no command “knit”/],
      [['build', DEMO('gate-spring.json')], 2, /needs -o/],
      [['report'], 2, /needs a design file/],
      [['serve', '--port', 'x'], 2, /a port is a number/],
    ];
    for (const [args, status, says] of cases) {
      const { code, stderr } = await nematos(...args);
      expect(stderr, args.join(' ')).match(says);
      expect(stderr.trim().split('\n')).to.have.length(1);
      expect(code).equal(status);
    }
  });

  it('never writes onto a design, by whatever name it is called', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const at = (name: string) => join(folder, name);
    const text = await readFile(DEMO('frame-basket.json'), 'utf8');
    await writeFile(at('d.stl'), text);
    await link(at('d.stl'), at('hard.stl'));
    await symlink(at('d.stl'), at('soft.stl'));
    for (const name of ['d.stl', 'hard.stl', 'soft.stl', '../' + basename(folder) + '/d.stl'])
      for (const args of [
        ['build', at('d.stl')],
        ['table', at('d.stl'), 'run', 'bends'],
      ]) {
        const { code, stderr } = await nematos(...args, '-o', `${folder}/${name}`);
        expect([code, stderr], name).deep.equal([
          2,
          `nematos: ${folder}/${name} is the design itself; write to another file\n`,
        ]);
        expect(await readFile(at('d.stl'), 'utf8')).equal(text);
      }
  });

  it('writes a file whole or not at all, and through a link to where it leads', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const at = (name: string) => join(folder, name);
    await writeFile(at('rows.csv'), 'old');
    await symlink(at('rows.csv'), at('link.csv'));
    await mkdir(at('folder.csv'));
    const table = (output: string) =>
      nematos('table', DEMO('frame-basket.json'), 'run', 'bends', '-o', output);
    for (const [output, says] of [
      [at('missing/rows.csv'), /there is no folder \S+missing$/],
      [at('rows.csv/rows.csv'), /there is no folder \S+rows\.csv$/],
      [at('folder.csv'), /is a folder; name a file$/],
      ['/dev/full', /\/dev\/full could not be written: the disk is full$/],
      [at('x'.repeat(300)), /the name .* is too long$/],
    ] as const) {
      const { code, stderr } = await table(output);
      expect(stderr.trim(), output).match(says);
      expect(code).equal(2);
    }
    expect((await readdir(folder)).sort()).deep.equal(['folder.csv', 'link.csv', 'rows.csv']);
    expect((await table(at('link.csv'))).code).equal(0);
    expect(await readFile(at('rows.csv'), 'utf8')).match(/^length \[mm\],/);
    expect((await lstat(at('link.csv'))).isSymbolicLink()).equal(true);
  });

  it('says what is wrong with a table, a format and a tolerance', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'nematos-'));
    const design = JSON.parse(await readFile(DEMO('nest-spring.json'), 'utf8')) as { tolerance: string };
    const basket = DEMO('frame-basket.json');
    for (const table of ['constructor', '__proto__', 'toString', 'bend'])
      expect((await nematos('table', basket, 'run', table, '-o', join(folder, 'a.csv'))).stderr).match(
        /^nematos: run has the tables points, bends\n$/,
      );
    expect(await nematos('build', DEMO('nest-spring.json'), '--ascii', '-o', join(folder, 'a.obj'))).include({
      code: 2,
      stderr: 'nematos: --ascii is for .stl; a .obj file is written without it\n',
    });
    for (const tolerance of ['', '-1', '0', 'NaN', '1e-9 mm', '2 kg', '1/0']) {
      design.tolerance = tolerance;
      await writeFile(join(folder, 'd.json'), JSON.stringify(design));
      const built = await nematos('build', join(folder, 'd.json'), '-o', join(folder, 'a.stl'));
      expect(built, tolerance).include({ code: 1, stdout: '' });
      expect(built.stderr).match(/^nematos: The chord tolerance (is|cannot be read)/);
      const told = await nematos('report', join(folder, 'd.json'));
      expect(told.code).equal(1);
      expect(told.stdout).match(/^! The chord tolerance/m);
    }
  });
});

const PAGE = `<title>Nematos</title>${'<meta>'.repeat(400)}`;
const SCRIPT = 'export {};'.repeat(400);

describe('server', () => {
  let app: ReturnType<typeof createApp>;
  before(async () => {
    const dist = await mkdtemp(join(tmpdir(), 'nematos-dist-'));
    await mkdir(join(dist, 'assets'));
    await writeFile(join(dist, 'index.html'), PAGE);
    await writeFile(join(dist, 'assets/a-1.js'), SCRIPT);
    await writeFile(join(dist, 'assets/a-1.js.gz'), gzipSync(SCRIPT));
    app = createApp(dist);
  });

  it('serves the pages of the application, fresh and with a strict policy', async () => {
    for (const path of ['/', '/d/3f6c']) {
      const answer = await app.request(path, { headers: { 'accept-encoding': 'gzip' } });
      expect(answer.status).equal(200);
      expect(await answer.text()).equal(PAGE);
      // Small as it is, packing it for every request took most of the server's time.
      expect(answer.headers.get('content-encoding')).equal(null);
      expect(answer.headers.get('cache-control')).equal('no-cache');
      expect(answer.headers.get('content-security-policy')).match(/default-src 'none'.*script-src 'self'/);
    }
  });

  it('lets built files be kept for good, compressed as they were when they were built', async () => {
    const answer = await app.request('/assets/a-1.js', { headers: { 'accept-encoding': 'gzip' } });
    expect(answer.status).equal(200);
    expect(answer.headers.get('cache-control')).match(/immutable/);
    expect(answer.headers.get('content-encoding')).equal('gzip');
    expect(Buffer.from(await answer.arrayBuffer()).equals(gzipSync(SCRIPT))).equal(true);
    expect(await (await app.request('/assets/a-1.js')).text()).equal(SCRIPT);
  });

  it('answers 304 to who has it already, in each encoding, and sends what has changed', async () => {
    for (const path of ['/', '/d/3f6c', '/assets/a-1.js'])
      for (const encoding of ['identity', 'gzip']) {
        const headers = { 'accept-encoding': encoding };
        const first = await app.request(path, { headers });
        const tag = first.headers.get('etag')!;
        expect(tag, path).match(/^(W\/)?".{8,}"$/);
        const again = await app.request(path, { headers: { ...headers, 'if-none-match': tag } });
        expect(again.status, path).equal(304);
        expect(await again.text()).equal('');
        expect(again.headers.get('etag')).equal(tag);
        expect(again.headers.get('cache-control')).equal(first.headers.get('cache-control'));
        const other = await app.request(path, { headers: { ...headers, 'if-none-match': '"another"' } });
        expect(other.status).equal(200);
      }
    const [plain, packed] = await Promise.all(
      ['identity', 'gzip'].map((encoding) =>
        app.request('/assets/a-1.js', { headers: { 'accept-encoding': encoding } }),
      ),
    );
    expect(plain!.headers.get('etag')).not.equal(packed!.headers.get('etag'));
    const folder = await mkdtemp(join(tmpdir(), 'nematos-dist-'));
    await writeFile(join(folder, 'index.html'), PAGE);
    const changing = createApp(folder);
    const before = (await changing.request('/')).headers.get('etag')!;
    await writeFile(join(folder, 'index.html'), `${PAGE}<p>new</p>`);
    expect((await changing.request('/', { headers: { 'if-none-match': before } })).status).equal(200);
    expect((await app.request('/nowhere', { headers: { 'if-none-match': '*' } })).status).equal(404);
  });

  it('sends files whole, whatever parts are asked for', async () => {
    for (const range of ['bytes=0-1', 'bytes=0-1,5-6', 'bytes=9999999-', 'nonsense']) {
      const answer = await app.request('/assets/a-1.js', { headers: { range } });
      expect(answer.status, range).equal(200);
      expect(await answer.text()).equal(SCRIPT);
    }
  });

  it('ends at the first word, though a browser keeps its connection open', async () => {
    const server = spawn(process.execPath, [join(ROOT, 'server/bin/nematos.js'), 'serve', '--port', '0']);
    const address = await new Promise<string>((resolve) =>
      server.stdout.on('data', (text: Buffer) => resolve(/http\S+/.exec(String(text))![0])),
    );
    const { port } = new URL(address);
    const open = connect(Number(port), '127.0.0.1');
    open.on('error', () => undefined);
    await new Promise((resolve) => open.once('connect', resolve));
    const ended = new Promise<number | null>((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    expect(
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 5000, 'still there'))]),
    ).equal(0);
    open.destroy();
  });

  it('answers health, and 404 in words for what is not there', async () => {
    expect(await (await app.request('/api/health')).json()).deep.equal({ ok: true, built: true });
    for (const path of ['/nowhere', '/assets/none.js', '/d/a/b', '/assets/../../package.json']) {
      const answer = await app.request(path);
      expect(answer.status, path).equal(404);
      expect(answer.headers.get('cache-control') ?? '', path).not.match(/immutable/);
    }
  });
});
