<?php

/* No other origin may read an answer: nothing is allowed, to nobody. */
return ['paths' => [], 'allowed_methods' => [], 'allowed_origins' => [], 'allowed_origins_patterns' => [], 'allowed_headers' => [], 'exposed_headers' => [], 'max_age' => 0, 'supports_credentials' => false];
