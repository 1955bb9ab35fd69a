import { ActionIcon, TextInput, Tooltip } from '@mantine/core';
import { IconArrowBackUp, IconArrowForwardUp, IconKeyboard, IconPrinter } from '@tabler/icons-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Choice } from '../Choice.tsx';
import { useEditing } from './context.ts';
import { KeysList } from './KeysList.tsx';
import type { SaveState } from './useJobEditor.ts';
import css from './TopBar.module.css';

const SAVE_WORDS: Record<SaveState, string> = {
  saved: 'Saved',
  saving: 'Saving…',
  unsaved: 'Not saved yet',
  away: 'Not saved yet',
  refused: 'Not saved',
};

export function TopBar({ view }: { view: 'slope' | 'roof' | 'details' | 'bench' | 'order' }) {
  const { change, editor, job } = useEditing();
  const [keys, setKeys] = useState(false);
  return (
    <section className={css.topbar} aria-label="This job">
      <Link to="/" className="wordmark" aria-label="Ruvet, all jobs">
        Ruvet
      </Link>
      <h1 className={css.unseen}>{job.name}</h1>
      <JobName />
      <span className={`${css.saveState} ${editor.saveState}`} role="status">
        {SAVE_WORDS[editor.saveState]}
      </span>
      <nav className={css.views} aria-label="Views of this job">
        <ViewLink to="roof" label="Roof" on={view === 'roof'} />
        <ViewLink to="" label="Slope" on={view === 'slope'} />
        <ViewLink to="details" label="Details" on={view === 'details'} />
        <ViewLink to="bench" label="Lap bench" on={view === 'bench'} />
        <ViewLink to="order" label="Order list" on={view === 'order'} />
        <ViewLink to="print" label="Print" on={false} icon />
      </nav>
      <Choice
        label="Units"
        value={job.units}
        onChange={(units) => void change('units', (draft) => void (draft.units = units))}
        options={[
          { value: 'imperial', label: 'ft-in' },
          { value: 'metric', label: 'mm' },
        ]}
      />
      <span className={css.history}>
        <Tooltip label="Undo (Ctrl+Z)">
          <ActionIcon variant="subtle" size={36} aria-label="Undo" disabled={!editor.canUndo} onClick={editor.undo}>
            <IconArrowBackUp size={20} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Redo (Ctrl+Y)">
          <ActionIcon variant="subtle" size={36} aria-label="Redo" disabled={!editor.canRedo} onClick={editor.redo}>
            <IconArrowForwardUp size={20} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Keys (?)">
          <ActionIcon variant="subtle" size={36} aria-label="Keys" onClick={() => setKeys(true)} className={css.wideOnly}>
            <IconKeyboard size={20} />
          </ActionIcon>
        </Tooltip>
      </span>
      <KeysList
        marks={view === 'slope' || view === 'bench'}
        opened={keys}
        onOpen={() => setKeys(true)}
        onClose={() => setKeys(false)}
      />
    </section>
  );
}

function ViewLink({ to, label, on, icon = false }: { to: string; label: string; on: boolean; icon?: boolean }) {
  const { id } = useParams();
  return (
    <Link to={`/jobs/${id}${to ? `/${to}` : ''}`} className={on ? 'on' : ''} aria-current={on ? 'page' : undefined}>
      {icon && <IconPrinter size={16} aria-hidden />}
      {label}
    </Link>
  );
}

function JobName() {
  const { change, job } = useEditing();
  const [text, setText] = useState<string>();
  const [error, setError] = useState<string>();
  return (
    <TextInput
      className={css.jobTitle}
      variant="unstyled"
      aria-label="Name of the job"
      value={text ?? job.name}
      error={error}
      onChange={(event) => {
        const name = event.currentTarget.value;
        setText(name);
        const [issue] = change('name', (draft) => void (draft.name = name));
        setError(issue && !issue.kept ? `Name ${issue.message.toLowerCase()}` : undefined);
      }}
      onBlur={() => {
        setText(undefined);
        setError(undefined);
      }}
    />
  );
}
