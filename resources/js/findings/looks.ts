import { styled } from '@mui/material/styles';

/** A sheet that is read on the screen and on paper, A4 or Letter. */
export const FixSheet = styled('article')`
    max-width: 1000px;
    & blockquote {
        margin: 0 0 14px;
        padding: 6px 12px;
        border-left: 3px solid var(--rule-strong);
        white-space: pre-wrap;
        overflow-wrap: anywhere;
    }
    & .fixes {
        list-style: none;
        margin: 0;
        padding: 0;
    }
    & .fix {
        display: grid;
        grid-template-columns: 300px minmax(0, 1fr);
        gap: 18px;
        padding: 14px 0;
        border-top: 1px solid var(--rule-strong);
        break-inside: avoid;
    }
    & .fix.mended .picture {
        opacity: 0.5;
    }
    & .picture {
        height: 190px;
        background: var(--stand);
        border: 1px solid var(--rule);
        display: grid;
        place-items: center;
        overflow: hidden;
    }
    & .picture img {
        width: 100%;
        height: 100%;
        object-fit: cover;
        background: #eae5da;
    }
    & p {
        margin: 4px 0;
    }
    & dl {
        margin: 6px 0 0;
        display: grid;
        grid-template-columns: auto minmax(0, 1fr);
        gap: 2px 12px;
    }
    & dt {
        color: var(--soft);
    }
    & dd {
        margin: 0;
        overflow-wrap: anywhere;
    }
    & .members {
        margin: 6px 0 0;
        padding-left: 18px;
        overflow-wrap: anywhere;
    }
    @media (max-width: 760px) {
        & .fix {
            grid-template-columns: minmax(0, 1fr);
        }
    }
    @media print {
        max-width: none;
        font-size: 10.5pt;
        & .fix {
            grid-template-columns: 64mm minmax(0, 1fr);
            gap: 5mm;
            padding: 4mm 0;
        }
        & .fix.mended .picture {
            opacity: 1;
        }
        & .picture {
            height: 42mm;
        }
        & .members {
            columns: 2;
        }
    }
`;

export const ChangeList = styled('ul')`
    list-style: none;
    margin: 0 0 14px;
    padding: 0;
    & li {
        border-bottom: 1px solid var(--rule);
        padding: 6px 2px;
        overflow-wrap: anywhere;
    }
`;
