package dev.nachlauf.service.connection;

import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.service.NachlaufSettings;
import java.io.IOException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * How far connections may lead: to folders below stated roots and never into the state folder, to hosts that are listed
 * where a list is stated, and never to addresses at which a machine tells about itself.
 */
@Component
class ReachGuard {
    /** Services of clouds that give a machine's own credentials to whoever asks from it, outside of link-local ranges. */
    private static final Set<String> METADATA = Set.of("100.100.100.200", "fd00:ec2:0:0:0:0:0:254");

    private final List<Path> roots;
    private final List<String> hosts;
    private final Path home;

    ReachGuard(NachlaufSettings settings) {
        this.roots = settings.folders();
        this.hosts = settings.reaches().stream()
                .map(host -> host.toLowerCase(Locale.ROOT))
                .toList();
        this.home = settings.home();
    }

    /**
     * Lets a connection through, or says why not.
     *
     * @throws CannotGoOn with {@code out-of-reach}
     */
    void require(Reach reach) {
        switch (reach) {
            case Reach.Folder folder -> requireFolder(folder.path());
            case Reach.Host host -> requireHost(host.name());
        }
    }

    private void requireFolder(Path path) {
        Path real = real(path);
        if (real.startsWith(real(home)) || real(home).startsWith(real)) {
            throw problem("The folder " + path + " holds the service's own state.", "Choose another folder.");
        }
        if (roots.stream().noneMatch(root -> real.startsWith(real(root)))) {
            throw problem(
                    "The folder " + path + " lies below none of the folders that connections may read.",
                    "Whoever runs the service adds it, or one above it, to NACHLAUF_FOLDERS.");
        }
    }

    /** Where a path leads over all links; of one that does not exist, what it says. */
    private static Path real(Path path) {
        try {
            return path.toRealPath();
        } catch (IOException e) {
            return path.toAbsolutePath().normalize();
        }
    }

    private void requireHost(String written) {
        String host = written.replaceAll("^\\[|]$", "").toLowerCase(Locale.ROOT);
        if (!hosts.isEmpty() && hosts.stream().noneMatch(listed -> matches(listed, host))) {
            throw problem(
                    "The host " + host + " is none of those that connections may reach.",
                    "Whoever runs the service adds it to NACHLAUF_REACHES.");
        }
        try {
            for (InetAddress address : InetAddress.getAllByName(host)) {
                if (address.isLinkLocalAddress()
                        || address.isAnyLocalAddress()
                        || address.isMulticastAddress()
                        || METADATA.contains(address.getHostAddress())) {
                    throw problem(
                            "The host " + host + " leads to " + address.getHostAddress()
                                    + ", an address that connections never reach.",
                            "Name the system's own address.");
                }
            }
        } catch (UnknownHostException e) {
            // the connection says so, with the setting
        }
    }

    /** A listed host, or any host below {@code *.domain}. */
    private static boolean matches(String listed, String host) {
        return listed.startsWith("*.") ? host.endsWith(listed.substring(1)) : host.equals(listed);
    }

    private static CannotGoOn problem(String sentence, String remedy) {
        return new CannotGoOn(Problem.of(ProblemCode.OUT_OF_REACH, sentence, remedy));
    }
}
