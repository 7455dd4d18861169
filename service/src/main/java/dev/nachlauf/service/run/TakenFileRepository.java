package dev.nachlauf.service.run;

import org.springframework.data.jpa.repository.JpaRepository;

interface TakenFileRepository extends JpaRepository<TakenFile, TakenFile.Id> {}
