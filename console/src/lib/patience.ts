import { configure } from '@testing-library/react';

// What a test waits for comes at once on an idle machine; a busy one must not fail it.
configure({ asyncUtilTimeout: 15_000 });
