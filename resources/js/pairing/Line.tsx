import type { Tie } from '../api/client';
import { lineOf } from './ledger';

/** A tie as a line whose form says its kind. */
export function Line({ tie }: { tie: Tie }) {
    const { form, label, words } = lineOf(tie);
    return (
        <span className={`line ${form}`} title={words}>
            {form === 'crossed' ? (
                <svg viewBox="0 0 100 32" preserveAspectRatio="none" aria-hidden="true">
                    <path d="M0 7L100 25M0 25L100 7" fill="none" stroke="currentColor" strokeWidth="2" vectorEffect="non-scaling-stroke" />
                </svg>
            ) : (
                <i />
            )}
            {label && form !== 'crossed' && <b>{label}</b>}
            <span className="visually-hidden">{words}</span>
        </span>
    );
}
