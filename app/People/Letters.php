<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Person;
use Illuminate\Mail\Message;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Mail;
use Throwable;

/**
 * The mails that are sent, in plain text, each with the link that it is about. Secrets stand after the `#` of a link: no server sees them there.
 */
final class Letters
{
    /** Where somebody sets their password. */
    public static function link(Person $person, string $token, bool $isInvite): string
    {
        return self::address('/password').'#'.http_build_query(['email' => $person->email, 'token' => $token, ...($isInvite ? ['invite' => 1, 'name' => $person->name] : [])]);
    }

    public static function reset(Person $person, string $token): bool
    {
        return self::send($person, 'Set a new password', "Hello $person->name,\n\nsomebody asked for a new password for you at Yellow Anvil. This link sets one; it works once, for an hour:\n\n".self::link($person, $token, false)."\n\nIf that was not you, do nothing: your password stays as it is.");
    }

    public static function invite(Person $person, string $token, string $by): bool
    {
        return self::send($person, 'You are invited to Yellow Anvil', "Hello $person->name,\n\n$by made an account for you as {$person->role->words()}. This link sets your password; it works once, for three days:\n\n".self::link($person, $token, true));
    }

    /** Whether it was taken. */
    public static function send(Person $to, string $subject, string $text): bool
    {
        try {
            Mail::raw($text."\n\n–\nYellow Anvil, ".self::address('/')."\n", static function (Message $message) use ($to, $subject): void {
                $message->to($to->email, $to->name)->subject($subject);
            });

            return true;
        } catch (Throwable $error) {
            Log::error('a mail could not be sent', ['person' => $to->id, 'subject' => $subject, 'because' => $error::class]);

            return false;
        }
    }

    public static function address(string $path): string
    {
        return rtrim(config()->string('app.url'), '/').$path;
    }
}
