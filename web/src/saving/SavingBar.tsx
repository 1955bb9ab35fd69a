import { Button, Modal } from '@mantine/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useEditing } from '../editor/context.ts';

/** Why what was changed is not saved yet, and what becomes of it; nothing while saving goes well. */
export function SavingBar() {
  const { editor } = useEditing();
  const { away, refused } = editor.saving;
  if (away)
    return (
      <p className="saving-bar" role="status">
        {away} Go on working: every change is kept on this device and saved as soon as that is over.
      </p>
    );
  if (!refused) return null;
  return (
    <div className="saving-bar refused" role="alert">
      <p>
        The last changes are not saved: {refused.message} They are kept on this device; change what is wrong, or keep them as a
        job of their own.
      </p>
      <KeepAsCopy />
    </div>
  );
}

function KeepAsCopy() {
  const { editor } = useEditing();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string>();
  return (
    <>
      <Button
        variant="default"
        size="xs"
        onClick={() =>
          void editor.keepAsCopy().then(
            (id) => navigate(`/jobs/${id}`),
            (error: Error) => setProblem(error.message),
          )
        }
      >
        Keep as a copy
      </Button>
      {problem && <p>{problem}</p>}
    </>
  );
}

/** Both versions are kept; the user chooses which goes on. */
export function SavedFirst() {
  const { editor, job } = useEditing();
  const [problem, setProblem] = useState<string>();
  const { theirs, overrule } = editor.saving;
  if (!theirs) return null;
  const name = (theirs.job as { name?: string }).name;
  return (
    <Modal opened onClose={() => undefined} withCloseButton={false} title="Someone saved this job first" centered>
      <p>
        While you were working, another version{name && name !== job.name ? ` (“${name}”)` : ''} was saved at{' '}
        {new Date(theirs.savedAt).toLocaleTimeString()}. Both are kept. Which one goes on?
      </p>
      {problem && <p role="alert">{problem}</p>}
      <div className="choices">
        <Button onClick={overrule}>Go on with mine</Button>
        <Button variant="default" onClick={() => void editor.keepAsCopy().catch((error: Error) => setProblem(error.message))}>
          Go on with theirs, keep mine as a copy
        </Button>
      </div>
    </Modal>
  );
}
