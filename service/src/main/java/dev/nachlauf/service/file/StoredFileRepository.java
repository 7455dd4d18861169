package dev.nachlauf.service.file;

import org.springframework.data.jpa.repository.JpaRepository;

interface StoredFileRepository extends JpaRepository<StoredFile, String> {}
