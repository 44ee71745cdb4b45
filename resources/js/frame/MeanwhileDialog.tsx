import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuestion } from '../api/meanwhile';
import { when } from './format';

/** Two people decide the same: who changed what and when, and whether the own change goes on top. */
export function MeanwhileDialog() {
    const question = useQuestion();
    if (!question) {
        return null;
    }
    const { meanwhile, answer } = question;
    return (
        <Dialog open onClose={() => answer(false)} aria-labelledby="meanwhile-title" fullWidth maxWidth="sm">
            <DialogTitle id="meanwhile-title">Somebody changed this after you loaded it</DialogTitle>
            <DialogContent>
                <ul aria-label="changes since you loaded it" style={{ margin: 0, paddingLeft: 18 }}>
                    {meanwhile.changes.map((one, i) => (
                        <li key={i} style={{ margin: '4px 0', overflowWrap: 'anywhere' }}>
                            <b>{one.who}</b> {one.words} <span className="soft">{when(one.when)}</span>
                        </li>
                    ))}
                </ul>
                <p style={{ marginBottom: 0 }}>Your change is not saved yet. Save it over theirs, or keep theirs and look at it first: what you entered stays.</p>
            </DialogContent>
            <DialogActions>
                <Button onClick={() => answer(false)} autoFocus>
                    Keep theirs for now
                </Button>
                <Button variant="contained" onClick={() => answer(true)}>
                    Save mine over theirs
                </Button>
            </DialogActions>
        </Dialog>
    );
}
