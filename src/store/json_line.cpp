// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/json_archive.h"

namespace store {
namespace {

/// Follows a JSON text token by token, keeping the path, until it meets the one that is looked for.
/// The text is known to be valid JSON when this runs.
class Walker {
public:
    Walker(const std::string& text, const std::string& path) : m_text(text), m_path(path) {}
    int run() {
        value("");
        return m_found;
    }

private:
    void value(const std::string& path) {
        space();
        if (m_found || m_at >= m_text.size())
            return;
        // The longest path that exists wins: a missing key is reported at its object.
        if (path == m_path)
            m_found = m_line;
        else if (!path.empty() && m_path.starts_with(path))
            m_nearest = m_line;
        if (m_text[m_at] == '{')
            object(path);
        else if (m_text[m_at] == '[')
            array(path);
        else if (m_text[m_at] == '"')
            string();
        else
            while (m_at < m_text.size() && std::string_view(",]}\n \t\r").find(m_text[m_at]) == std::string_view::npos)
                ++m_at;
    }
    void object(const std::string& path) {
        ++m_at;
        for (space(); m_at < m_text.size() && m_text[m_at] != '}' && !m_found; space()) {
            const std::string key = string();
            space();
            ++m_at; // ':'
            std::string inner = path;
            inner += path.empty() ? "" : ".";
            value(inner += key);
            space();
            if (m_at < m_text.size() && m_text[m_at] == ',')
                ++m_at;
        }
        ++m_at;
        if (path.empty() && !m_found)
            m_found = m_nearest;
    }
    void array(const std::string& path) {
        ++m_at;
        std::size_t i = 0;
        for (space(); m_at < m_text.size() && m_text[m_at] != ']' && !m_found; space()) {
            value(path + "[" + std::to_string(i++) + "]");
            space();
            if (m_at < m_text.size() && m_text[m_at] == ',')
                ++m_at;
        }
        ++m_at;
    }
    std::string string() {
        std::string out;
        for (++m_at; m_at < m_text.size() && m_text[m_at] != '"'; ++m_at) {
            if (m_text[m_at] == '\\')
                ++m_at;
            if (m_at < m_text.size())
                out += m_text[m_at];
        }
        ++m_at;
        return out;
    }
    void space() {
        for (; m_at < m_text.size() && std::string_view(" \t\r\n").find(m_text[m_at]) != std::string_view::npos; ++m_at)
            if (m_text[m_at] == '\n')
                ++m_line;
    }

    const std::string& m_text;
    const std::string& m_path;
    std::size_t m_at = 0;
    int m_line = 1, m_found = 0, m_nearest = 0;
};

} // namespace

int lineOfPath(const std::string& text, const std::string& path) { return Walker(text, path).run(); }

} // namespace store
