package dev.nachlauf.contract;

import dev.nachlauf.contract.memory.RecordSystem;
import dev.nachlauf.contract.target.RecordTargetContract;
import dev.nachlauf.core.system.Writes;

class MemoryRecordTargetTest extends RecordTargetContract {
    private final RecordSystem memory = new RecordSystem(MemoryTargetTest.HUT);

    @Override
    protected Writes open() {
        return memory;
    }

    @Override
    protected void changeElsewhere(String hutCode, long beds) {
        memory.change("hut_code", hutCode, "beds", beds);
    }

    @Override
    protected long count() {
        return memory.records().size();
    }
}
