<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Deliveries\HandIn;
use App\Deliveries\Store;
use App\Models\Person;
use App\Models\Standard;
use App\Models\Upload;
use App\People\Crew;
use App\People\Standing;
use App\People\Who;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\Auth;

/**
 * Hands the demo files in, the way a person would.
 */
final class HandInDemo extends Command
{
    protected $signature = 'anvil-demo:hand-in {folder : where demo/make.php wrote to}';

    protected $description = 'Hand the demo assets in';

    public function handle(HandIn $handIn): int
    {
        $folder = $this->argument('folder');
        // The artist of the made-up crew, where there is one.
        $artist = Crew::all() === [] ? null : Person::query()->where('is_demo', true)->where('role', Standing::Artist)->first();
        if ($artist !== null) {
            Auth::setUser($artist);
        }
        $user = Who::name();
        Standard::query()->firstOrCreate(['name' => 'built-in'], ['rules' => '{"name":"built-in"}', 'changed_by' => $user]);
        Store::here()->makeDirectory('uploads');
        foreach (['winch' => 'Mooring winch', 'lantern' => 'Signal lantern', 'gauge' => 'Tide gauge'] as $file => $name) {
            $uploads = [];
            $standard = null;
            foreach (glob("$folder/$file/*") ?: [] as $path) {
                if (basename($path) === 'standard.json') {
                    $rules = (string) file_get_contents($path);
                    $standard = Standard::query()->firstOrCreate(['name' => 'sets baked together'], ['rules' => $rules, 'changed_by' => $user]);

                    continue;
                }
                $upload = Upload::query()->create(['name' => basename($path), 'bytes' => (int) filesize($path), 'received' => (int) filesize($path), 'uploaded_by' => $user, 'person_id' => $artist?->id]);
                copy($path, Store::here()->path($upload->path()));
                $uploads[] = $upload;
            }
            $handIn->deliver($uploads, null, $name, $standard);
        }

        return self::SUCCESS;
    }
}
