import { useEffect, useRef, useState } from 'react';
import type { Delivery, FixCause } from '../api/client';
import { StandScene, type Show } from '../stand/scene';
import { useMeshes } from '../stand/useMeshes';
import { colors } from '../theme';

const showOf = (station: string): Show => (station === 'surface' || station === 'proof' ? 'low' : station === 'color-id' ? 'ID' : 'both');

/** Names of the parts that a cause is about. */
export function namesOf(cause: FixCause, delivery: Pick<Delivery, 'sets'> | undefined): string[] {
    const names = new Set<string>();
    for (const one of cause.findings) {
        const own = [one.part, one.other].filter((name) => name !== null);
        own.forEach((name) => names.add(name));
        const set = own.length === 0 && one.set !== null ? delivery?.sets.find((each) => each.name === one.set) : undefined;
        [...(set?.low ?? []), ...(set?.high ?? [])].forEach((name) => names.add(name));
    }
    return [...names];
}

/** A picture of the place of each cause, taken by the stand, one after the other; null while it is not taken, '' where none can be. */
export function usePictures(delivery: Delivery, causes: FixCause[]): (string | null)[] {
    const { parts, isError, isComplete } = useMeshes(delivery);
    const [pictures, setPictures] = useState<(string | null)[]>(() => causes.map(() => null));
    const begun = useRef(false);
    const ready = isComplete || isError;
    useEffect(() => {
        if (!ready || begun.current) {
            return;
        }
        begun.current = true;
        const host = document.createElement('div');
        host.style.cssText = 'position:fixed;left:-10000px;top:0;width:520px;height:320px';
        document.body.append(host);
        let scene: StandScene;
        try {
            scene = new StandScene(host, colors.light, { onScale: () => undefined, onPick: () => undefined, onPoint: () => undefined });
        } catch {
            queueMicrotask(() => setPictures(causes.map(() => '')));
            host.remove();
            return;
        }
        const shown = parts.filter((part) => part.role !== 'cage');
        scene.load(shown);
        const take = (number: number): void => {
            const cause = causes[number];
            if (!cause) {
                scene.dispose();
                host.remove();
                return;
            }
            const names = new Set(namesOf(cause, delivery));
            const points = cause.findings.flatMap((one) => one.where);
            const chosen = new Set(shown.filter((part) => names.has(part.name)).map((part) => part.key));
            scene.dress({ show: showOf(cause.station), wire: false, seeThrough: true, paint: null, chosen });
            scene.mark({ points, segments: [] }, []);
            const picture = shown.length === 0 ? '' : scene.picture(points);
            setPictures((old) => old.map((one, i) => (i === number ? picture : one)));
            setTimeout(() => take(number + 1), 0);
        };
        setTimeout(() => take(0), 0);
    }, [ready, parts, causes, delivery]);
    return pictures;
}
