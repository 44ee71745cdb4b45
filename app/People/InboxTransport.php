<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Letter;
use Symfony\Component\Mailer\SentMessage;
use Symfony\Component\Mailer\Transport\AbstractTransport;
use Symfony\Component\Mime\Email;

/**
 * Puts mail into the inbox page, where no mail server is set.
 */
final class InboxTransport extends AbstractTransport
{
    public function __toString(): string
    {
        return 'inbox';
    }

    protected function doSend(SentMessage $message): void
    {
        $mail = $message->getOriginalMessage();
        if ($mail instanceof Email) {
            $text = $mail->getTextBody();
            foreach ($mail->getTo() as $to) {
                Letter::query()->create(['to' => $to->getAddress(), 'subject' => (string) $mail->getSubject(), 'text' => is_string($text) ? $text : '']);
            }
        }
    }
}
