<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Validation\Validator;

/**
 * Rules of types hold for blank text too: Laravel passes over them there, and what was to be a list or a number would be text. Names may be blank, so that blank text is
 * not taken for nothing either.
 */
final class BlankIsAValue extends Validator
{
    private const TYPES = ['Array', 'List', 'Integer', 'Numeric', 'Boolean', 'In'];

    /**
     * @param  object|string  $rule
     * @param  string  $attribute
     * @param  mixed  $value
     */
    protected function presentOrRuleIsImplicit($rule, $attribute, $value): bool
    {
        return (is_string($value) && $value !== '' && in_array($rule, self::TYPES, true)) || parent::presentOrRuleIsImplicit($rule, $attribute, $value);
    }
}
