package dev.nachlauf.service.store;

import jakarta.persistence.EntityManager;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Lets one hand at a time change what bears a name, also where nothing bears it yet. */
@Component
public class NameLock {
    private final EntityManager entities;

    NameLock(EntityManager entities) {
        this.entities = entities;
    }

    /**
     * Waits until nobody else changes it, and holds it until the transaction under way ends. What is read afterwards is
     * what the other hand has left.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void hold(String kind, String name) {
        entities.createNativeQuery("SELECT 1 FROM (SELECT pg_advisory_xact_lock(hashtextextended(:name, 0))) x")
                .setParameter("name", kind + " " + name)
                .getResultList();
    }
}
