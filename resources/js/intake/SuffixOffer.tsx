import Button from '@mui/material/Button';
import { ApiError, useAct, type At } from '../api/client';
import { plural } from '../frame/format';
import { Offer } from '../frame/sheet';
import { useMay } from '../people/session';

/** A studio's own suffixes, found in the files where those of the standard fit nothing. */
export function SuffixOffer({ delivery }: { delivery: At<'intake'> | At<'pairing'> }) {
    const mayDecide = useMay('decide');
    const take = useAct<void>(delivery.id, () => 'suffixes');
    const guess = delivery.suffixGuess;
    if (!guess) {
        return null;
    }
    return (
        <Offer
            acts={
                <Button variant="contained" disabled={take.isPending || !mayDecide} onClick={() => take.mutate()}>
                    Use these suffixes
                </Button>
            }
        >
            {guess.ofFiles ? 'The files end' : 'The parts end'} in <b className="mono">{guess.low}</b> and <b className="mono">{guess.high}</b>
            {guess.id !== null && (
                <>
                    , ID copies in <b className="mono">{guess.id}</b>
                </>
            )}
            . With these suffixes {guess.pairs} of {plural(guess.bases, guess.ofFiles ? 'file' : 'name')} would pair.
            {take.error instanceof ApiError && (
                <span className="blocker" role="alert">
                    {' '}
                    {take.error.message}
                </span>
            )}
        </Offer>
    );
}
