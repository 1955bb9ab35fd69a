import { Button } from '@mantine/core';
import { isRouteErrorResponse, useRouteError } from 'react-router';

/** A page that could not be shown: what went wrong, and the ways on. What was typed is kept on this device, and is there again. */
export function ErrorPage() {
  const error = useRouteError();
  const said = isRouteErrorResponse(error) ? error.statusText : error instanceof Error ? error.message : String(error);
  return (
    <main className="jobs">
      <div role="alert" className="refusal">
        <p>This page could not be shown ({said}).</p>
        <p>Nothing is lost: what you changed is kept on this device and is there when the page comes back.</p>
      </div>
      <p>
        <Button onClick={() => window.location.reload()}>Load the page again</Button>{' '}
        <Button variant="default" component="a" href="/">
          Back to the jobs
        </Button>
      </p>
    </main>
  );
}

/** Until the first page’s script is there. */
export function Opening() {
  return <p className="waiting">Opening…</p>;
}
