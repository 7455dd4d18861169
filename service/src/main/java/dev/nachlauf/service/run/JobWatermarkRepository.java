package dev.nachlauf.service.run;

import org.springframework.data.jpa.repository.JpaRepository;

interface JobWatermarkRepository extends JpaRepository<JobWatermark, Long> {}
