package dev.nachlauf.contract;

import dev.nachlauf.contract.memory.MemorySystem;
import dev.nachlauf.contract.target.AtomicTargetContract;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import dev.nachlauf.core.system.RecordDescription.UniqueKey;
import dev.nachlauf.core.system.Writes;
import dev.nachlauf.core.value.Kind;
import java.util.List;

class MemoryTargetTest extends AtomicTargetContract {
    static final RecordDescription HUT = new RecordDescription(
            "hut",
            true,
            List.of(
                    FieldDescription.requiredField("hut_code", Kind.TEXT),
                    FieldDescription.requiredField("name", Kind.TEXT),
                    FieldDescription.plain("beds", Kind.INTEGER),
                    FieldDescription.plain("price", Kind.DECIMAL),
                    FieldDescription.plain("opens", Kind.DATE)),
            List.of(new UniqueKey("hut_code_key", List.of("hut_code"), false)),
            List.of());

    private final MemorySystem memory = new MemorySystem(HUT);

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
