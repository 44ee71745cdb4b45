<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Closure;

/**
 * What a password must be (NIST SP 800-63B, 5.1.1.2: long, not a usual one, no rules of letters and digits).
 */
final class GoodPassword
{
    private const SHORTEST = 12;

    /** bcrypt reads no further, in bytes. */
    private const LONGEST = 72;

    /** Pieces of which usual passwords are made; what is left beside them must still be long. From memory. */
    private const USUAL = ['password', 'passwort', 'letmein', 'welcome', 'qwertyuiop', 'qwerty', 'qwertz', 'asdfghjkl', 'asdf', 'yellowanvil', 'yellow', 'anvil', 'iloveyou', 'admin', 'monkey', 'dragon', 'football', 'sunshine', 'princess', 'abc123', '1q2w3e4r', '123456789', '12345678', '123456', '1234', 'abcdef'];

    /**
     * @return list<mixed>
     */
    public static function rules(): array
    {
        return ['required', 'string', static function (string $attribute, mixed $value, Closure $fail): void {
            $trouble = is_string($value) ? self::trouble($value) : 'give a password';
            if ($trouble !== null) {
                $fail($trouble);
            }
        }];
    }

    public static function trouble(string $password): ?string
    {
        $left = str_replace(self::USUAL, '', mb_strtolower($password));

        return match (true) {
            mb_strlen($password) < self::SHORTEST => 'a password has at least '.self::SHORTEST.' characters; several words are good',
            strlen($password) > self::LONGEST => 'a password has at most '.self::LONGEST.' bytes',
            count(array_unique(mb_str_split(mb_strtolower($password)))) < 5, mb_strlen($left) < 6 => 'that is one that many people use; take several words that do not belong together',
            default => null,
        };
    }
}
