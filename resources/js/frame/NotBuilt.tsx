import type { Delivery } from '../api/client';
import { Head, Scroll } from './sheet';

const will: Record<string, string> = {
    proof: 'A small trial bake, computed here.',
};

/** A station that is on the rail and not there yet: it says so, and what of it runs already. */
export function NotBuilt({ delivery, station }: { delivery: Delivery; station: string }) {
    const title = delivery.stations.find((one) => one.key === station)?.title ?? station;
    const checks = delivery.checks.filter((check) => check.station === station);
    return (
        <Scroll>
            <Head title={`${title} is not built yet`}>
                {will[station]} Nothing of it counts as clear.
                {checks.length > 0 &&
                    ` ${checks.length} of its checks run already: ${checks.map((check) => check.code).join(', ')}; what they find is listed at the right and blocks like any other finding.`}
            </Head>
        </Scroll>
    );
}
