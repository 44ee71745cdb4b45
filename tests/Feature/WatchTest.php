<?php

declare(strict_types=1);

namespace Tests\Feature;

use Anvil\Formats\Folder;
use Anvil\Formats\Obj\ObjWriter;
use Anvil\Geometry\Part;
use Anvil\Modelling\Shapes;
use Anvil\Standard\Standard as Rules;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\MemorySink;
use App\Models\Delivery;
use App\Models\Person;
use App\Models\Standard;
use App\Watch\Server;
use App\Watch\Watch;
use App\Watch\WatchedFolder;
use App\Watch\WatchState;
use GuzzleHttp\Exception\ConnectException;
use GuzzleHttp\Promise\Create;
use GuzzleHttp\Promise\PromiseInterface;
use GuzzleHttp\Psr7\Response;
use Illuminate\Support\Facades\DB;
use Psr\Http\Message\RequestInterface;
use Tests\Support\HandsIn;
use Tests\TestCase;

/** A watched folder: what is written slowly, again, elsewhere or away, a server that is gone, a watch that ends in between. */
final class WatchTest extends TestCase
{
    use HandsIn;

    private string $folder;

    private string $kept;

    private string $token;

    private float $clock = 0.0;

    private bool $isGone = false;

    /** An answer to a POST of a delivery gets lost. */
    private bool $losesAnswer = false;

    /** @var list<string> */
    private array $told = [];

    private Watch $watch;

    protected function setUp(): void
    {
        parent::setUp();
        $this->emptied();
        Standard::factory()->create(['rules' => '{"rays":{"count":2048},"mapSize":128,"checks":{"silhouette-loss":{"severity":"off"}}}']);
        $this->token = Person::query()->firstOrFail()->createToken('watch', ['read', 'hand-in'])->plainTextToken;
        $this->folder = sys_get_temp_dir().'/anvil-watched-'.bin2hex(random_bytes(4));
        $this->kept = "$this->folder.kept";
        mkdir($this->folder);
        mkdir($this->kept);
        $this->begin();
    }

    protected function tearDown(): void
    {
        Folder::remove($this->folder);
        Folder::remove($this->kept);
        parent::tearDown();
    }

    public function test_what_is_saved_is_handed_in_once_it_stays_as_it_is(): void
    {
        $low = $this->low();
        // Written slowly: each look finds more of it.
        mkdir("$this->folder/cleat");
        foreach ([100, 400, strlen($low)] as $bytes) {
            file_put_contents("$this->folder/cleat/cleat_low.obj", substr($low, 0, $bytes));
            $this->look(3.0);
        }
        file_put_contents("$this->folder/cleat/cleat_high.obj", $this->high(0.0));
        $this->look(3.0);
        self::assertSame(0, Delivery::query()->count(), 'it has not stopped changing');
        $this->look(3.0, 3);
        self::assertSame(1, Delivery::query()->count());
        self::assertSame(['cleat_high.obj', 'cleat_low.obj'], $this->names("$this->folder/cleat"), 'no report before it is judged');
        $this->work();
        $this->look(1.0);
        self::assertSame(['cleat_high.obj', 'cleat_low.obj', 'report.html', 'report.json'], $this->names("$this->folder/cleat"));
        $report = (array) json_decode((string) file_get_contents("$this->folder/cleat/report.json"), true);
        self::assertSame(['ready', 1, 'Cleat'], [$report['verdict'], $report['delivery'], $report['asset']]);
        self::assertStringContainsString('Ready to bake', (string) file_get_contents("$this->folder/cleat/report.html"));
        // Saved again with the same bytes: nothing new. With others: the next delivery, and the report of that.
        touch("$this->folder/cleat/cleat_low.obj", time() + 50);
        $this->look(4.0, 5);
        self::assertSame(1, Delivery::query()->count());
        file_put_contents("$this->folder/cleat/cleat_high.obj", $this->high(0.02));
        touch("$this->folder/cleat/cleat_high.obj", time() + 90);
        $this->look(4.0, 4);
        self::assertSame([1, 2], Delivery::query()->orderBy('id')->pluck('number')->all());
        $this->work();
        $this->look(1.0);
        $report = (array) json_decode((string) file_get_contents("$this->folder/cleat/report.json"), true);
        self::assertSame(['blocked', 2], [$report['verdict'], $report['delivery']]);
        // What somebody deletes of the reports comes back; files that go take nothing with them.
        unlink("$this->folder/cleat/report.html");
        $this->look(61.0, 2);
        self::assertFileExists("$this->folder/cleat/report.html");
        unlink("$this->folder/cleat/cleat_low.obj");
        unlink("$this->folder/cleat/cleat_high.obj");
        $this->look(4.0, 3);
        self::assertSame([2, 2], [Delivery::query()->count(), count($this->names("$this->folder/cleat"))]);
    }

    public function test_no_link_takes_anything_from_elsewhere(): void
    {
        mkdir("$this->folder/cleat");
        file_put_contents("$this->folder/cleat/cleat_low.obj", $this->low());
        file_put_contents("$this->folder/cleat/cleat_high.obj", $this->high(0.0));
        foreach (['secret.mtl', 'secret.png', 'secret_low.obj'] as $name) {
            file_put_contents("$this->kept/$name", $name);
            symlink("$this->kept/$name", "$this->folder/cleat/$name");
        }
        $this->look(3.0, 3);
        self::assertSame(['cleat_high.obj', 'cleat_low.obj'], Delivery::query()->firstOrFail()->files->pluck('name')->sort()->values()->all());
        $this->work();
        $this->look(61.0, 2);
    }

    public function test_only_reports_of_its_own_are_replaced(): void
    {
        mkdir("$this->folder/cleat");
        file_put_contents("$this->folder/cleat/cleat_low.obj", $this->low());
        file_put_contents("$this->folder/cleat/cleat_high.obj", $this->high(0.0));
        file_put_contents("$this->folder/cleat/report.html", 'what the artist wrote');
        $this->look(3.0, 3);
        $this->work();
        $this->look(61.0, 4);
        self::assertSame('what the artist wrote', file_get_contents("$this->folder/cleat/report.html"));
        self::assertFileDoesNotExist("$this->folder/cleat/report.json");
        self::assertCount(1, preg_grep('/report\.html was not written by this watch/', $this->told) ?: [], implode("\n", $this->told));
        unlink("$this->folder/cleat/report.html");
        $this->look(61.0, 2);
        self::assertFileExists("$this->folder/cleat/report.json");
        // A word added to one is somebody's work; another watch knows what this one wrote.
        $this->begin();
        file_put_contents("$this->folder/cleat/report.html", '<!-- look at the horn -->', FILE_APPEND);
        $kept = file_get_contents("$this->folder/cleat/report.html");
        file_put_contents("$this->folder/cleat/cleat_high.obj", $this->high(0.02));
        touch("$this->folder/cleat/cleat_high.obj", time() + 90);
        $this->look(4.0, 4);
        $this->work();
        $this->look(61.0, 2);
        self::assertSame($kept, file_get_contents("$this->folder/cleat/report.html"));
        self::assertSame(1, json_decode((string) file_get_contents("$this->folder/cleat/report.json"), true)['delivery'] ?? null);
        rename("$this->folder/cleat/report.html", "$this->folder/cleat/notes.html");
        $this->look(61.0, 2);
        self::assertSame(2, json_decode((string) file_get_contents("$this->folder/cleat/report.json"), true)['delivery'] ?? null);
        self::assertSame($kept, file_get_contents("$this->folder/cleat/notes.html"));
    }

    public function test_an_asset_that_is_moved_is_the_same_and_one_of_the_same_name_is_told(): void
    {
        $this->save('a/bitt', 0.0);
        $this->look(4.0, 3);
        $this->work();
        $this->look(1.0);
        rename("$this->folder/a", "$this->folder/b");
        $this->look(4.0, 4);
        self::assertSame(1, Delivery::query()->count());
        self::assertContains('b/bitt lay in a/bitt before; nothing is handed in anew', $this->told);
        $this->save('c/bitt', 0.01);
        $this->look(4.0, 4);
        self::assertSame(1, Delivery::query()->count());
        self::assertStringContainsString('b/bitt is an asset of the same name', (string) file_get_contents("$this->folder/c/report.json"));
        // Once the other has another name, this one is taken as it is.
        rename("$this->folder/b/bitt_low.obj", "$this->folder/b/bollard_low.obj");
        rename("$this->folder/b/bitt_high.obj", "$this->folder/b/bollard_high.obj");
        $this->look(4.0, 4);
        self::assertContains('c/bitt is uploaded as delivery 2', $this->told);
        // Two assets in one folder have a report each.
        $this->save('post', 0.0);
        $this->save('ring', 0.0);
        $this->look(4.0, 3);
        $this->work();
        $this->look(1.0);
        self::assertSame(['a', 'b', 'c', 'post.report.html', 'post.report.json', 'post_high.obj', 'post_low.obj', 'ring.report.html', 'ring.report.json', 'ring_high.obj', 'ring_low.obj'], array_values(array_unique([...['a'], ...$this->names($this->folder)])));
    }

    public function test_a_server_that_is_gone_and_a_watch_that_ends_cost_a_wait(): void
    {
        $this->save('cleat', 0.0);
        $this->isGone = true;
        $this->look(4.0, 4);
        self::assertSame(['the server does not answer; waiting for it'], $this->told);
        $this->isGone = false;
        $this->look(4.0, 2);
        self::assertSame(1, Delivery::query()->count());
        // It ends, and begins again: nothing is handed in twice, and the report that is due comes.
        $this->begin();
        $this->work();
        $this->look(4.0, 3);
        self::assertSame(1, Delivery::query()->count());
        self::assertFileExists("$this->folder/report.html");
        // It ends just as the delivery came in, before it knew: the next start finds it.
        file_put_contents("$this->folder/cleat_high.obj", $this->high(0.001));
        touch("$this->folder/cleat_high.obj", time() + 50);
        $this->losesAnswer = true;
        $this->look(4.0, 3);
        self::assertSame(2, Delivery::query()->count());
        $this->work();
        $this->begin();
        $this->look(4.0, 4);
        self::assertSame(2, Delivery::query()->count());
        self::assertSame(2, ((array) json_decode((string) file_get_contents("$this->folder/report.json"), true))['delivery']);
        // The folder goes, as one of a network does, and comes again.
        rename($this->folder, "$this->folder.away");
        $this->look(4.0, 2);
        self::assertStringContainsString('is not there', $this->told[count($this->told) - 1]);
        rename("$this->folder.away", $this->folder);
        $this->look(4.0, 3);
        self::assertSame(2, Delivery::query()->count());
        self::assertContains('the folder is there again', $this->told);
        // The asset is deleted on the rack: what is saved next begins it anew.
        DB::table('assets')->delete();
        $this->look(61.0, 2);
        self::assertSame(0, Delivery::query()->count());
        file_put_contents("$this->folder/cleat_high.obj", $this->high(0.0));
        touch("$this->folder/cleat_high.obj", time() + 100);
        $this->look(4.0, 3);
        self::assertSame(1, Delivery::query()->count());
    }

    private function begin(): void
    {
        $server = new Server('http://localhost', $this->token, $this->answer(...));
        $this->watch = new Watch(new WatchedFolder($this->folder, Rules::builtIn()), $server, new WatchState("$this->kept/state.json"), 5.0, function (string $words): void {
            $this->told[] = $words;
        }, fn (): float => $this->clock);
    }

    private function look(float $seconds, int $times = 1): void
    {
        for ($i = 0; $i < $times; $i++) {
            $this->clock += $seconds;
            $this->watch->round();
        }
    }

    /** The application in place of a network. */
    private function answer(RequestInterface $request): PromiseInterface
    {
        if ($this->isGone) {
            throw new ConnectException('refused', $request);
        }
        $this->app?->make('auth')->forgetGuards();
        $server = [];
        foreach ($request->getHeaders() as $name => $values) {
            $server[(in_array($name, ['Content-Type', 'Content-Length'], true) ? '' : 'HTTP_').strtoupper(str_replace('-', '_', $name))] = implode(', ', $values);
        }
        $answer = $this->call($request->getMethod(), (string) $request->getUri(), [], [], [], $server, (string) $request->getBody());
        if ($this->losesAnswer && $request->getMethod() === 'POST' && str_ends_with($request->getUri()->getPath(), '/deliveries')) {
            $this->losesAnswer = false;
            throw new ConnectException('reset', $request);
        }

        return Create::promiseFor(new Response($answer->baseResponse->getStatusCode(), [], (string) $answer->baseResponse->getContent()));
    }

    private function save(string $path, float $shift): void
    {
        $folder = dirname("$this->folder/$path");
        if (! is_dir($folder)) {
            mkdir($folder);
        }
        file_put_contents("$this->folder/{$path}_low.obj", $this->low());
        file_put_contents("$this->folder/{$path}_high.obj", $this->high($shift));
    }

    private function low(): string
    {
        return self::obj(new Part('bar_low', Assets::worn(Shapes::box(3, 2, 1)->mesh())));
    }

    private function high(float $shift): string
    {
        return self::obj(new Part('bar_high', Shapes::roundedBox(3, 2, 1, 0.06, 3, 2)->moved(0, $shift * sqrt(14), 0)->mesh()));
    }

    private static function obj(Part $part): string
    {
        $sink = new MemorySink;
        ObjWriter::write([$part], 'x.obj', $sink);

        return (string) preg_replace('/^mtllib.*\n/m', '', $sink->content('x.obj'));
    }

    /** @return list<string> */
    private function names(string $folder): array
    {
        return array_values(array_diff(scandir($folder) ?: [], ['.', '..']));
    }
}
