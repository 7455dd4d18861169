import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate } from 'react-router';
import { useMay } from '../../lib/session';
import { api } from '../../api/client';
import type { ConnectionView, FileView, FoundFileView, Page } from '../../api/client';
import { keys } from '../../api/keys';
import { bytes, moment } from '../../lib/format';
import { Failed } from '../../ui/Failed';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { ofUpload } from './request';

/** Three ways to a source: a place that is browsed, a file of one's own, a pasted sample. */
export function SourceChoice({ connection }: { connection: string | null }) {
  return (
    <>
      <PageHead title="Sources" state="Look at a file before anything is mapped; nothing is written by looking." />
      <div className="two">
        <section>
          <h2>From a connection</h2>
          <Places chosen={connection} />
        </section>
        <OwnFile />
      </div>
    </>
  );
}

function Places({ chosen }: { chosen: string | null }) {
  const connections = useQuery({
    queryKey: keys.connections,
    queryFn: () => api.get<Page<ConnectionView>>('/connections'),
  });
  return (
    <Loaded query={connections}>
      {(page) => {
        const places = page.items.filter((connection) => connection.abilities.includes('files'));
        const shown = chosen ?? places[0]?.name;
        return places.length === 0 ? (
          <p className="soft">No connection holds files yet.</p>
        ) : (
          <>
            <nav className="tabs" aria-label="Connections that hold files">
              {places.map((place) => (
                <Link
                  key={place.name}
                  to={`/sources?connection=${place.name}`}
                  className={place.name === shown ? 'active' : ''}
                  aria-current={place.name === shown ? 'page' : undefined}
                  title={place.title}
                >
                  <span className="mono">{place.name}</span>
                </Link>
              ))}
            </nav>
            {shown && <Files connection={shown} />}
          </>
        );
      }}
    </Loaded>
  );
}

function Files({ connection }: { connection: string }) {
  const files = useQuery({
    queryKey: keys.filesOf(connection),
    queryFn: () => api.get<Page<FoundFileView>>(`/connections/${connection}/files`),
    retry: false,
  });
  return (
    <Loaded query={files}>
      {(page) =>
        page.items.length === 0 ? (
          <p className="soft">No file lies there now.</p>
        ) : (
          <table className="sheet">
            <thead>
              <tr>
                <th scope="col">File</th>
                <th scope="col" className="number">
                  Size
                </th>
                <th scope="col">Changed</th>
              </tr>
            </thead>
            <tbody>
              {page.items.map((file) => (
                <tr key={file.name}>
                  <th scope="row">
                    <Link
                      className="mono"
                      to={`/sources?${new URLSearchParams({ connection, file: file.name }).toString()}`}
                    >
                      {file.name}
                    </Link>
                  </th>
                  <td className="number">{file.size < 0 ? '' : bytes(file.size)}</td>
                  <td className="fixed" title={file.modified}>
                    {file.modified && moment(file.modified)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )
      }
    </Loaded>
  );
}

/** A file of one's own goes to the service's store first; so does a pasted sample. */
function OwnFile() {
  const mayRun = useMay('run');
  const [sample, setSample] = useState('');
  const navigate = useNavigate();
  const upload = useMutation({
    mutationFn: ({ name, file }: { name: string; file: Blob }) =>
      api.upload<FileView>(`/files?name=${encodeURIComponent(name)}`, file),
    onSuccess: (kept) => void navigate(`/sources?${ofUpload(kept).toString()}`),
  });
  if (!mayRun) {
    return null;
  }
  return (
    <section>
      <h2>
        <label htmlFor="own-file">From this machine</label>
      </h2>
      <Form.Control
        id="own-file"
        type="file"
        size="sm"
        onChange={(event) => {
          const file = (event.target as HTMLInputElement).files?.[0];
          if (file) {
            upload.mutate({ name: file.name, file });
          }
        }}
      />
      <h2>
        <label htmlFor="sample">From a pasted sample</label>
      </h2>
      <Form.Control
        id="sample"
        as="textarea"
        rows={6}
        className="mono"
        value={sample}
        placeholder="The first lines of a file, with its names"
        onChange={(event) => setSample(event.target.value)}
      />
      <Button
        className="mt-2"
        size="sm"
        disabled={sample.trim() === '' || upload.isPending}
        onClick={() => upload.mutate({ name: 'sample', file: new Blob([sample]) })}
      >
        Look at the sample
      </Button>
      {upload.error && <Failed error={upload.error} again={() => upload.reset()} />}
    </section>
  );
}
