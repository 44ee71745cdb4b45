import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useEffect } from 'react';
import { useFormats } from '../api/client';
import { Bar } from '../frame/Bar';
import { Failure } from '../frame/sheet';
import { App } from '../frame/looks';
import { RackBox } from '../rack/looks';
import type { Mode } from '../theme';

/** Which mesh formats are read, what each carries, and what to export instead of those that are not. */
export function FormatsPage({ mode, setMode }: { mode: Mode; setMode: (mode: Mode) => void }) {
    const { data, error } = useFormats();
    useEffect(() => {
        document.title = 'Formats – Yellow Anvil';
    });
    return (
        <App>
            <Bar mode={mode} setMode={setMode}>
                <b>Formats</b>
                <span className="grow" />
                <a href="/" className="crumb" onClick={(event) => (event.preventDefault(), window.history.length > 1 ? window.history.back() : window.location.assign('/'))}>
                    back
                </a>
            </Bar>
            <RackBox>
                <h1>Export .glb for everything, .obj where smoothing groups or n-gons matter</h1>
                <p className="soft" style={{ maxWidth: '76ch' }}>
                    Only open formats are read: what stands in them can be held against their published descriptions, and mended without touching the rest. A .zip may hold any of
                    these with their side files.
                </p>
                {error && <Failure>{error.message}</Failure>}
                {data && (
                    <>
                        <Table sx={{ maxWidth: 1080 }}>
                            <colgroup>
                                <col style={{ width: 230 }} />
                                {data.formats.map((format) => (
                                    <col key={format.ending} />
                                ))}
                            </colgroup>
                            <TableHead>
                                <TableRow>
                                    <TableCell>carries</TableCell>
                                    {data.formats.map((format) => (
                                        <TableCell key={format.ending} scope="col">
                                            <b className="mono">.{format.ending}</b>
                                            <br />
                                            {format.name}
                                        </TableCell>
                                    ))}
                                </TableRow>
                            </TableHead>
                            <TableBody>
                                {data.carried.map((what) => (
                                    <TableRow key={what}>
                                        <TableCell component="th" scope="row">
                                            {what}
                                        </TableCell>
                                        {data.formats.map((format) => (
                                            <TableCell key={format.ending} className={format.carries.includes(what) ? 'clear' : 'soft'}>
                                                {format.carries.includes(what) ? 'yes' : 'no'}
                                            </TableCell>
                                        ))}
                                    </TableRow>
                                ))}
                                <TableRow>
                                    <TableCell component="th" scope="row">
                                        mended files are written
                                    </TableCell>
                                    {data.formats.map((format) => (
                                        <TableCell key={format.ending} className={format.written ? 'clear' : 'soft'}>
                                            {format.written ? 'yes' : 'no, read only'}
                                        </TableCell>
                                    ))}
                                </TableRow>
                            </TableBody>
                        </Table>
                        <h2 style={{ margin: '22px 0 4px' }}>Not read</h2>
                        <p style={{ maxWidth: '76ch', margin: 0 }}>
                            <span className="mono">{data.notRead.map((ending) => `.${ending}`).join(' ')}</span>
                        </p>
                        <p className="soft" style={{ maxWidth: '76ch' }}>
                            Export the same meshes from the program that made the file: low and high poly with their names, normals and UVs as .glb; a high poly of many millions of
                            triangles without UVs may come as .ply or .stl, one part a file.
                        </p>
                    </>
                )}
            </RackBox>
        </App>
    );
}
