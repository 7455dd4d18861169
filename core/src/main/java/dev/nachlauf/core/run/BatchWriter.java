package dev.nachlauf.core.run;

/** Takes batches to their end: what becomes of their rows is planned first, then delivered. Used by one thread. */
final class BatchWriter implements Pipeline.Writer<Batch> {
    private final BatchPlanner planner;
    private final Delivery delivery;

    BatchWriter(BatchPlanner planner, Delivery delivery) {
        this.planner = planner;
        this.delivery = delivery;
    }

    /** Writes a batch; false where a limit is crossed by it. */
    @Override
    public boolean write(Batch batch) {
        return delivery.deliver(planner.plan(batch));
    }

    /** Marks what is committed as done, when no further chunk will do it; also when the run breaks off. */
    @Override
    public void finish() {
        delivery.finish();
    }
}
