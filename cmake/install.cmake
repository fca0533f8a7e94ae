install(TARGETS mini-draft mini-draft-cli mini-draft-rig RUNTIME)
install(FILES packaging/mini-draft.desktop DESTINATION ${CMAKE_INSTALL_DATADIR}/applications)
install(FILES packaging/io.minidraft.MiniDraft.metainfo.xml DESTINATION ${CMAKE_INSTALL_DATADIR}/metainfo)
install(FILES packaging/mini-draft.xml DESTINATION ${CMAKE_INSTALL_DATADIR}/mime/packages)
install(FILES data/icons/mini-draft.svg DESTINATION ${CMAKE_INSTALL_DATADIR}/icons/hicolor/scalable/apps)
install(FILES packaging/man/mini-draft.1 packaging/man/mini-draft-cli.1 packaging/man/mini-draft-rig.1 DESTINATION ${CMAKE_INSTALL_MANDIR}/man1)
install(DIRECTORY data/demo/dig-tent DESTINATION ${CMAKE_INSTALL_DATADIR}/mini-draft/demo)
# Languages: made by tools/sentences.py --update LANGUAGE; none is needed.
file(GLOB md_translations CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/translations/mini-draft_*.ts)
if(md_translations)
    find_program(MD_LRELEASE lrelease PATHS /usr/lib/qt6/bin NO_DEFAULT_PATH REQUIRED) # Debian: qt6-l10n-tools
    set(md_languages ${CMAKE_BINARY_DIR}/share/mini-draft/translations)
    foreach(source ${md_translations})
        get_filename_component(language ${source} NAME_WE)
        add_custom_command(OUTPUT ${md_languages}/${language}.qm DEPENDS ${source}
            COMMAND ${CMAKE_COMMAND} -E make_directory ${md_languages}
            COMMAND ${MD_LRELEASE} -silent ${source} -qm ${md_languages}/${language}.qm)
        list(APPEND md_compiled ${md_languages}/${language}.qm)
    endforeach()
    add_custom_target(translations ALL DEPENDS ${md_compiled})
    install(FILES ${md_compiled} DESTINATION ${CMAKE_INSTALL_DATADIR}/mini-draft/translations)
endif()
