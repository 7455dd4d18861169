package dev.nachlauf.service.source;

import org.springframework.data.jpa.repository.JpaRepository;

interface FetchedFileRepository extends JpaRepository<FetchedFile, FetchedFile.Id> {}
